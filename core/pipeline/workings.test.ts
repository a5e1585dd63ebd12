import { describe, expect, it } from 'vitest';
import type { Chart } from '../board/chart';
import { newCue } from '../edit/defaults';
import type { Positions } from '../levers/lever-kind';
import { chart } from '../testing/fixtures';
import { runChart } from '../testing/run-chart';
import { sortedBySteps, type Workings, workingsOf } from './workings';
import { workingsCsv } from './workings-csv';

const workings = (more: Partial<Chart>, positions: Positions = {}): Workings =>
  workingsOf(
    runChart({ ...chart, order: { by: 'value', direction: 'descending' }, ...more }, positions, {
      miniature: true,
    }),
  );

const column = ({ steps, length }: Workings, heading: string) => {
  const step = steps.find((each) => each.heading === heading)!;
  return Array.from({ length }, (_, i) => step.text(i));
};
const rank = newCue('top', { kind: 'rank', count: 1, side: 'highest', ties: 'share' }, []);

describe('workings', () => {
  it('show each step from readings to lit marks, in the order of the sentences', () => {
    const found = workings({ cues: [rank] });
    expect(found.steps.map(({ heading }) => heading)).toEqual([
      'Quay',
      'Total boats',
      'Rank',
      'Count',
      expect.stringContaining('Ranked 1 from'),
      'State',
    ]);
    expect(column(found, 'Quay')).toEqual(['Quel', 'Ostrin', 'Harl', expect.any(String)]);
    expect(column(found, 'Total boats')).toEqual(['40', '25', '20', '7']);
    expect(column(found, 'Rank')).toEqual(['1', '2', '3', '4']);
    expect(column(found, 'State')).toEqual(['lit', 'muted', 'muted', 'muted']);
  });

  it('show the parts of an average, and of a formula', () => {
    const average = workings({ measure: { aggregate: 'average', field: 'boats' }, cues: [] });
    expect(column(average, 'Quay').slice(0, 3)).toEqual(['Harl', 'Quel', expect.any(String)]);
    expect(column(average, 'Total boats')).toEqual(['20', '40', '7', '25']);
    expect(column(average, 'Number of rows with boats')).toEqual(['2', '5', '1', '5']);
    expect(column(average, 'Average boats')).toEqual(['10', '8', '7', '5']);
    const ratio = workings({
      measure: { aggregate: 'formula', text: 'SUM(boats) / COUNT(*)', name: 'boats a row' },
      cues: [],
    });
    expect(column(ratio, 'Number of rows')).toEqual(['5', '1', '4', '5']);
    expect(column(ratio, 'Boats a row').map(Number)).toEqual([8, 7, 5, 5]);
    expect(ratio.steps.find(({ heading }) => heading === 'Boats a row')!.note).toBe(
      'SUM(boats) / COUNT(*), over all rows',
    );
  });

  it('show what a formula takes from other readings, as it is written', () => {
    const found = workings({
      cues: [newCue('f', { kind: 'formula', text: 'value > AVG(value) OVER ()' }, [])],
    });
    expect(column(found, 'AVG(value) OVER ()')).toEqual(['23', '23', '23', '23']);
    expect(column(found, 'State')).toEqual(['lit', 'lit', 'muted', 'muted']);
  });

  it('say over which rows, and from which sentence a look is', () => {
    const filtered = workings(
      {
        cues: [
          { ...newCue('years', { kind: 'member', lever: 'years' }, []), effect: 'filter' as const },
          rank,
          newCue('two', { kind: 'rank', count: 2, side: 'highest', ties: 'share' }, []),
        ],
      },
      { years: ['2024-01-01'] },
    );
    expect(filtered.steps[1]!.note).toBe('over the rows that the filters on day keep');
    const looks = column(filtered, 'Look set by');
    expect(looks[0]).toContain('Ranked 1 from');
    expect(looks[1]).toContain('Ranked 1 to 2 from');
    expect(looks.slice(2).every((text) => text === '')).toBe(true);
    // Harl has rows of that year, and no boats in them.
    expect(column(filtered, 'Total boats')).toEqual(['10', '5', 'null']);
  });

  it('are sorted by any step, null last either way, and copied in that order', () => {
    const found = workings({ cues: [] }, {});
    const by = (id: string, descending: boolean) =>
      Array.from(sortedBySteps(found, id, descending), (i) => column(found, 'Total boats')[i]);
    const id = found.steps[1]!.id;
    expect(by(id, false)).toEqual(['7', '20', '25', '40']);
    expect(by(id, true)).toEqual(['40', '25', '20', '7']);
    expect(
      workingsCsv(found, sortedBySteps(found, id, false))
        .split('\r\n')
        .slice(0, 3),
    ).toEqual(['Quay,Total boats,State', expect.stringMatching(/,7,plain$/), 'Harl,20,plain']);
  });
});
