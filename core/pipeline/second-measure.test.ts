import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Chart } from '../board/chart';
import { newCue } from '../edit/defaults';
import type { DotMarks } from '../forms/scene';
import { board, chart } from '../testing/fixtures';
import { runChart } from '../testing/run-chart';
import { readingsCsv } from '../text/readings-csv';
import { readingsJson } from '../text/readings-json';
import { readingsTable } from '../text/readings-table';
import { cubeRequest } from './cube-request';
import { stateCode } from './emphasise';

const rows = { aggregate: 'count' } as const;
const top = newCue('top', { kind: 'rank', count: 1, side: 'highest', ties: 'share' }, []);
const run = (more: Partial<Chart>, focus = -1) => {
  const shown: Chart = { ...chart, cues: [top], touches: [], ...more };
  return runChart(shown, {}, { board: { ...board, charts: [shown] }, focus, width: 500, height: 300 });
};
const litOf = ({ emphasis }: ReturnType<typeof run>) =>
  Array.from(emphasis.state.keys()).filter((i) => emphasis.state[i] === stateCode.lit);

describe('a chart of two measures', () => {
  const two = { also: [{ measure: rows, axis: 'second' as const }] };
  it('has a series for each, over the same places', () => {
    const { readings, seriesNames } = run({ ...two, form: 'columns' });
    expect(seriesNames).toEqual(['Total boats', 'Number of rows']);
    expect([...readings.value]).toEqual([40, 25, 20, 7, 5, 5, 4, 1]);
    expect([...readings.place]).toEqual([0, 1, 2, 3, 0, 1, 2, 3]);
  });
  it('is judged by the first, and both marks of a reading are lit; by the other where a condition names it', () => {
    expect(litOf(run(two))).toEqual([0, 4]);
    const byRows = newCue(
      'rows',
      { kind: 'rank', count: 1, side: 'highest', ties: 'share', measure: rows },
      [],
    );
    expect(litOf(run({ ...two, cues: [byRows] }))).toEqual([0, 1, 4, 5]);
    expect(run(two).caption()).toBe('1 of 4 quays lit: Quel (40).');
    expect(run(two).why(4)).toContain('rank 1 of 4');
  });
  it('lights the reading that is pointed at, by any of its marks', () => {
    const pointed = { ...two, cues: [newCue('pointed', { kind: 'focus' }, [])] };
    expect(litOf(run(pointed, 6))).toEqual([2, 6]);
  });
  it('asks for what it shows', () => {
    const asked = cubeRequest({ ...chart, ...two }, board, fullEngine);
    expect(asked.partials).toEqual([
      { aggregate: 'sum', field: 'boats' },
      { aggregate: 'count', field: undefined },
    ]);
  });
  it('shows one measure where it is parted, and says so', () => {
    const parted = run({ ...two, split: { field: 'day', grain: 'year', colours: 'own' }, cues: [] });
    expect(parted.readings.judged).toBeUndefined();
  });
  it('has words under its title that are as it is', () => {
    expect(run({ ...two, subtitle: '{lit} of {all}: {quays}, {nobody}' }).subtitle()).toBe(
      '1 of 4: none, {nobody}',
    );
  });
});

describe('dots against a second measure', () => {
  it('stand where both are, and tell both', () => {
    const { scene, value, readings } = run({ form: 'dots', against: rows });
    const { x } = scene.marks as DotMarks;
    // 5, 5, 4 and 1 rows along the axis.
    expect(x[0]).toBe(x[1]);
    expect(x[1]! - x[2]!).toBeCloseTo((x[0]! - x[3]!) / 4, 9);
    expect(value(0)).toBe('40 at 5');
    expect(readings.length).toBe(4);
  });
});

it('the readings as CSV and JSON have every figure, empty where there is none, and the state of each mark', () => {
  const { readings, emphasis } = run({ form: 'dots', against: rows });
  const table = readingsTable(readings, emphasis, {
    by: 'quay, "all"',
    measure: 'boats',
    others: [{ name: '=rows', measure: rows }],
  });
  const csv = readingsCsv(table);
  expect(csv.split('\r\n')).toEqual([
    '"quay, ""all""",boats,\'=rows,state',
    'Quel,40,5,lit',
    'Ostrin,25,5,muted',
    'Harl,20,4,muted',
    ',7,1,muted',
    '',
  ]);
  expect(JSON.parse(readingsJson(table))[3]).toEqual({
    'quay, "all"': null,
    boats: 7,
    '=rows': 1,
    state: 'muted',
  });
  // Two columns of one name are two.
  const twice = readingsJson({ names: ['a', 'a'], rows: [[1, 'x']] });
  expect(JSON.parse(twice)).toEqual([{ a: 1, 'a (2)': 'x' }]);
});
