import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import type { Condition } from '../conditions/registry';
import { newCue } from '../edit/defaults';
import { estimateText } from '../forms/fit-text';
import type { Positions } from '../levers/lever-kind';
import { legendLever } from '../pipeline/chart-rules';
import { chartStages } from '../pipeline/chart-stages';
import { board, chart, cube, dataset, positionsAt, testDay } from '../testing/fixtures';
import { runChart } from '../testing/run-chart';
import { told } from '../testing/told';
import { vocabularyOf } from '../words/vocabulary';
import { chartSentences } from './chart-sentences';

const split: Chart = {
  ...chart,
  form: 'columns',
  by: { field: 'day', grain: 'year' },
  split: { field: 'quay', colours: 'own' },
  order: { by: 'key', direction: 'ascending' },
  cues: [],
  touches: [],
};
const lights = (...conditions: Condition[]) =>
  conditions.map((condition, i) => ({ ...newCue(`c${i}`, condition, []), id: `c${i}` }));
const run = (
  changes: Partial<Chart>,
  positions: Positions = {},
  more: Partial<Board> = {},
  focus?: number,
) => {
  const on = { ...split, ...changes };
  const whole = { ...board, ...more, charts: [on] };
  return runChart(on, positions, {
    board: whole,
    width: 500,
    height: 300,
    ...(focus === undefined ? {} : { focus }),
  });
};
const legend = (...args: Parameters<typeof run>) =>
  run(...args)
    .legend()
    .map(({ state, text }) => `${state}: ${text}`);

describe('a legend', () => {
  it('names series while they have colours of their own', () => {
    expect(legend({})).toEqual(['plain: Harl', 'plain: Ostrin', 'plain: Quel', 'plain: (missing)']);
    expect(legend({ split: { field: 'quay', colours: 'one' } })).toEqual([]);
    // At the end of its line each stands anyway.
    expect(legend({ form: 'line' })).toEqual([]);
  });
  it('says in words what is lit, and the rest', () => {
    const cues = lights({ kind: 'rank', count: 2, side: 'highest', ties: 'share' });
    expect(legend({ split: { field: 'quay', colours: 'one' }, cues })).toEqual([
      'lit: the 2 highest',
      'muted: the rest',
    ]);
    expect(legend({ split: { field: 'quay', colours: 'one' }, cues, otherwise: { marks: 'gone' } })).toEqual([
      'lit: the 2 highest',
    ]);
  });
  it('has an entry for each side that something is on', () => {
    const one = { split: { field: 'quay', colours: 'one' as const } };
    const cues = (limit: number) => lights({ kind: 'threshold', is: 'outside', limit, upper: 20 });
    expect(legend({ ...one, cues: cues(7) })).toEqual([
      'lit: below 7',
      'lit: at or above 20',
      'muted: the rest',
    ]);
    expect(legend({ ...one, cues: cues(1) })).toEqual(['lit: at or above 20', 'muted: the rest']);
    const events = [{ id: 'e', name: 'the pier', date: '2024-01-01' }];
    expect(legend({ ...one, cues: lights({ kind: 'segment' }) }, {}, { events })).toEqual([
      'lit: before the pier',
      'lit: from the pier on',
    ]);
    // A stretch looks like the event that it begins with, unless it has a look of its own.
    const coloured = [{ ...events[0]!, colour: 'tide' as const }];
    const looks = (cue: Partial<ReturnType<typeof lights>[number]>) =>
      run({ ...one, cues: [{ ...lights({ kind: 'segment' })[0]!, ...cue }] }, {}, { events: coloured })
        .legend()
        .slice(0, 2)
        .map(({ look }) => look);
    expect(looks({ look: { colour: 'ember' } })).toEqual([{ colour: 'ember' }, { colour: 'tide' }]);
    expect(looks({ look: {}, looks: [{}, { colour: 'kelp' }] })[1]).toEqual({ colour: 'kelp' });
  });
  it('explains what passes with the pointer all the time', () => {
    const pointed = {
      split: { field: 'quay', colours: 'one' as const },
      cues: lights({ kind: 'focus', of: 'series' }),
    };
    expect(legend(pointed)).toEqual(['lit: what is pointed at', 'muted: the rest']);
    expect(legend(pointed, {}, {}, 2)).toEqual(['lit: what is pointed at', 'muted: the rest']);
  });
  it('shows which series are lit in their own colours', () => {
    const cues = [{ ...lights({ kind: 'member', lever: 'quays' })[0]!, look: { colour: 'series' } }];
    const entries = run({ cues }, { quays: ['Quel'] }).legend();
    expect(entries.map(({ state, text }) => `${state}: ${text}`)).toEqual([
      'muted: Harl',
      'muted: Ostrin',
      'lit: Quel',
      'muted: (missing)',
    ]);
  });
  it('says each look once: of two sentences that light alike, and of a series that a sentence names', () => {
    const alike = lights({ kind: 'member', lever: 'quays' }, { kind: 'member', lever: 'quays' });
    expect(
      legend(
        { cues: alike.slice(0, 2).map((cue) => ({ ...cue, look: { colour: 'tide' } })) },
        { quays: ['Quel'] },
      ),
    ).toEqual(['muted: Harl', 'muted: Ostrin', 'muted: Quel', 'muted: (missing)', 'lit: Quel']);
  });
});

describe('captions of several series', () => {
  it('count whole series, or marks', () => {
    const member = lights({ kind: 'member', lever: 'quays' });
    expect(run({ cues: member }, { quays: ['Quel', 'Ostrin'] }).caption()).toBe(
      '2 of 4 quays lit: Ostrin (5 at 2024) and Quel (10 at 2024).',
    );
    const top = lights({ kind: 'rank', count: 1, side: 'highest', ties: 'share', within: 'series' });
    expect(run({ cues: top }).caption()).toBe(
      '4 of 7 columns lit: Harl, 2023 (20), Ostrin, 2023 (20), Quel, 2023 (30) and (missing), 2023 (7).',
    );
    expect(run({}).caption()).toBe('4 quays at 2 years.');
  });
  it('why names the series', () => {
    const member = lights({ kind: 'member', lever: 'quays' });
    expect(run({ cues: member }, { quays: ['Quel'] }).why(0)).toBe('Muted: Harl is not in Quays.');
    expect(run({}).name(5)).toBe('Quel, 2024');
  });
  it('say that something stands in', () => {
    const cues = [
      { ...lights({ kind: 'member', lever: 'quays' })[0]!, resting: { lever: 'quays', position: ['Harl'] } },
    ];
    const out = run({ cues });
    expect(out.emphasis.litCount).toBe(2);
    expect(out.why(0)).toBe('Lit: Harl is in Quays (default while nothing is set).');
    expect(out.legend().at(-1)!.text).toBe('the default');
  });
});

it('pointing recomputes states alone, and only where a cue reads it', () => {
  const stages = chartStages();
  const at = (cues: Chart['cues'], focusSeries: number) => {
    const on = { ...split, cues };
    return told(
      stages.run({
        board: { ...board, charts: [on] },
        chart: on,
        dataset,
        cube,
        positionOf: positionsAt(board.levers, {}),
        facts: {},
        today: testDay,
        engine: fullEngine,
        focusSeries,
        width: 500,
        height: 300,
        measure: estimateText,
        miniature: false,
      }),
    );
  };
  const none = lights({ kind: 'rank', count: 1, side: 'highest', ties: 'share' });
  at(none, 0);
  at(none, 1);
  expect(stages.runs).toMatchObject({ readings: 1, scene: 1, emphasis: 1 });
  const pointed = lights({ kind: 'focus' });
  expect(at(pointed, 0).emphasis.litCount).toBe(2);
  expect(at(pointed, 3).emphasis.litCount).toBe(1);
  expect(stages.runs).toMatchObject({ readings: 1, scene: 1, emphasis: 3 });
});

it('a name of a series is put only into a lever that takes series', () => {
  const click = { gesture: 'click' as const, lever: 'years' };
  const both = { ...split, touches: [click, { gesture: 'legend' as const, lever: 'quays' }] };
  expect(legendLever({ ...split, touches: [click] }, board.levers)).toBeUndefined();
  expect(legendLever(both, board.levers)?.id).toBe('quays');
  expect(legendLever({ ...split, touches: [{ gesture: 'click', lever: 'quays' }] }, board.levers)?.id).toBe(
    'quays',
  );
  const words = vocabularyOf(board, dataset, fullEngine);
  const problem = (lever: string, on: Chart = split) =>
    chartSentences({ ...on, touches: [{ gesture: 'legend', lever }] }, board, words).at(-1)!.problem;
  expect(problem('quays')).toBeUndefined();
  expect(problem('years')).toBe('A name in the legend gives its quay, and Years does not hold that.');
});
