import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Chart } from '../board/chart';
import { allSteps, stepLength } from '../data/all-steps';
import type { Cube } from '../data/cube';
import { newCue } from '../edit/defaults';
import { estimateText } from '../forms/fit-text';
import type { RectMarks } from '../forms/scene';
import type { Positions } from '../levers/lever-kind';
import type { NumberLever } from '../levers/number';
import type { Lever } from '../levers/registry';
import { settledPositions } from '../levers/settled-positions';
import { board, chart, cube, dataset, factsOf, positionsAt, quays, testDay } from '../testing/fixtures';
import { told } from '../testing/told';
import { chartStages } from './chart-stages';
import type { PipelineInput } from './stage';

const input = ({
  positions = {},
  ...changes
}: Partial<PipelineInput> & { positions?: Positions } = {}): PipelineInput => ({
  board,
  chart,
  dataset,
  cube,
  positionOf: positionsAt((changes.board ?? board).levers, positions),
  facts: {},
  today: testDay,
  engine: fullEngine,
  width: 400,
  height: 300,
  measure: estimateText,
  miniature: false,
  ...changes,
});

describe('stages run only when what they read has changed', () => {
  it('a lever that lights recomputes states alone', () => {
    const stages = chartStages();
    const before = stages.run(input());
    const after = stages.run(input({ positions: { quays: ['Harl'] } }));
    expect(stages.runs).toEqual({ readings: 1, view: 0, scene: 1, guides: 1, emphasis: 2 });
    expect(after.scene).toBe(before.scene);
    expect(after.emphasis.litCount).toBe(1);
  });
  it('a lever that filters recomputes all that hangs on the readings', () => {
    const stages = chartStages();
    stages.run(input());
    stages.run(input({ positions: { years: ['2024-01-01'] } }));
    expect(stages.runs).toEqual({ readings: 2, view: 0, scene: 2, guides: 2, emphasis: 2 });
  });
  it("another chart's lever, or the same position again, recomputes nothing", () => {
    const stages = chartStages();
    const picked = ['Harl'];
    stages.run(input({ positions: { quays: picked } }));
    stages.run(input({ positions: { quays: picked, other: ['x'] } }));
    expect(stages.runs).toEqual({ readings: 1, view: 0, scene: 1, guides: 1, emphasis: 1 });
  });
  it('another size moves marks only', () => {
    const stages = chartStages();
    stages.run(input());
    stages.run(input({ width: 500 }));
    expect(stages.runs).toEqual({ readings: 1, view: 0, scene: 2, guides: 2, emphasis: 1 });
  });
  it('a change of words that is not about it leaves a stage alone', () => {
    const stages = chartStages();
    stages.run(input());
    stages.run(input({ chart: { ...chart, title: 'Other' } }));
    expect(stages.runs).toEqual({ readings: 1, view: 0, scene: 1, guides: 1, emphasis: 1 });
  });
});

it('the same lever filters when its word says so', () => {
  const cues = chart.cues.map((cue) => ({ ...cue, effect: 'filter' as const }));
  const filtering = { ...chart, cues };
  const { readings, emphasis } = chartStages().run(
    input({ chart: filtering, board: { ...board, charts: [filtering] }, positions: { quays: ['Harl'] } }),
  );
  expect(readings.category).toEqual(['Harl']);
  expect(emphasis.active).toBe(false);
});

describe('levers that place and window', () => {
  const limit: NumberLever = {
    kind: 'number',
    id: 'limit',
    name: 'Limit',
    min: 0,
    max: 100,
    step: 1,
    start: 20,
    outside: 'nearest',
    clearing: 'start',
  };
  const guided: Chart = {
    ...chart,
    guides: [{ kind: 'line', id: 'limit', at: { lever: 'limit' }, style: 'dashed' }],
  };
  const on = { ...board, levers: [...board.levers, limit], charts: [guided] };

  it('one that only places a guide moves the guide alone', () => {
    const stages = chartStages();
    const before = stages.run(input({ board: on, chart: guided }));
    const after = stages.run(input({ board: on, chart: guided, positions: { limit: 30 } }));
    expect(stages.runs).toEqual({ readings: 1, view: 0, scene: 1, guides: 2, emphasis: 1 });
    expect(after.scene).toBe(before.scene);
    expect(after.guides.handles[0]).toMatchObject({ lever: 'limit', at: 30 });
  });
  it('the axis grows for a guide beyond it', () => {
    const { scene } = chartStages().run(input({ board: on, chart: guided, positions: { limit: 90 } }));
    expect(scene.values.domain[1]).toBe(90);
  });
  it('a guide and a condition that read one lever agree', () => {
    const cue = newCue('above', { kind: 'threshold', is: 'at or above', limit: { lever: 'limit' } }, []);
    const both = { ...guided, cues: [cue] };
    for (const figure of [0, 7, 20, 25, 40, 41]) {
      const out = chartStages().run(
        input({ board: { ...on, charts: [both] }, chart: both, positions: { limit: figure } }),
      );
      const at = out.guides.handles[0]!.line.x1;
      const { x, width } = out.scene.marks as RectMarks;
      out.readings.value.forEach((_, i) => {
        expect(out.emphasis.state[i] === 2).toBe(x[i]! + width[i]! >= at - 1e-9);
      });
    }
  });
  it('a switch silences what it stands at', () => {
    const toggle: Lever = {
      kind: 'switch',
      id: 'on',
      name: 'On',
      on: 'shown',
      off: 'gone',
      start: true,
      clearing: 'start',
    };
    const switched = {
      ...guided,
      cues: [{ ...chart.cues[0]!, when: 'on' }],
      guides: [{ ...guided.guides[0]!, when: 'on' }],
    };
    const here = { ...on, levers: [...on.levers, toggle], charts: [switched] };
    const run = (positions: Positions) =>
      chartStages().run(
        input({ board: here, chart: switched, positions: { quays: ['Harl'], ...positions } }),
      );
    expect([run({}).emphasis.litCount, run({}).guides.lines.length]).toEqual([1, 1]);
    expect([run({ on: false }).emphasis.litCount, run({ on: false }).guides.lines.length]).toEqual([0, 0]);
  });
  it('a window shows a stretch, on an axis that follows or stays', () => {
    const lever: Lever = {
      kind: 'window',
      id: 'w',
      name: 'W',
      dataset: 'landings',
      field: 'quay',
      length: 2,
      start: 'first',
      clearing: 'start',
    };
    const levers = [...board.levers, lever];
    const run = (axis: 'fixed' | 'following', from: string) => {
      const windowed: Chart = {
        ...chart,
        order: { by: 'key', direction: 'ascending' },
        window: { lever: 'w', axis },
      };
      const known = factsOf(levers);
      return chartStages().run({
        ...input({ board: { ...board, levers, charts: [windowed] }, chart: windowed }),
        positionOf: settledPositions(levers, { w: { from, length: 2 } }, known),
        facts: known,
      });
    };
    expect(run('following', 'Harl').readings.category).toEqual(['Harl', 'Ostrin']);
    expect(run('following', 'Quel').readings.category).toEqual(['Ostrin', 'Quel']);
    expect(run('following', 'Harl').scene.values.domain).toEqual([0, 25]);
    expect(run('fixed', 'Harl').scene.values.domain).toEqual([0, 40]);
  });
});

describe('a result', () => {
  const spoken = (result: Parameters<typeof told>[0]) => {
    const { legend, caption, subtitle, why, name, value, readings } = told(result);
    const marks = Array.from({ length: readings.length }, (_, i) => [name(i), value(i), why(i)]);
    return { legend: legend(), caption: caption(), subtitle: subtitle(), marks };
  };
  const shown = { ...chart, subtitle: '{lit} of {all}, {total} boats: {quays}' };

  it('says the same after others were run, and of other data', () => {
    const stages = chartStages();
    const first = stages.run(input({ chart: shown, positions: { quays: ['Harl'] } }));
    const before = spoken(first);
    const partials = cube.partials.map((partial) => ({
      ...partial,
      values: partial.values.map((value) => value * 2),
    }));
    const other = stages.run(
      input({
        board: { ...board, title: 'Other', levers: [{ ...quays, name: 'Places' }, ...board.levers.slice(1)] },
        chart: { ...shown, by: { field: 'day', grain: 'year' } },
        cube: { ...cube, partials },
        positions: { quays: ['Quel', 'Harl'], years: ['2024-01-01'] },
      }),
    );
    expect(spoken(other)).not.toEqual(before);
    expect(spoken(first)).toEqual(before);
    expect(Object.isFrozen(first)).toBe(true);
  });

  it('has figures of formulas as soon as there is what reads them', () => {
    const stages = chartStages();
    const twice = { ...chart, measure: { aggregate: 'formula', text: 'SUM(boats) * 2' } as const };
    const valuesWith = (engine: PipelineInput['engine']) => {
      return [...stages.run(input({ chart: twice, engine })).readings.value];
    };
    expect(valuesWith(null)).toEqual([Number.NaN, Number.NaN, Number.NaN, Number.NaN]);
    expect(valuesWith(fullEngine)).toEqual([80, 50, 40, 14]);
  });

  it('has guides at figures of formulas as soon as there is what reads them', () => {
    const stages = chartStages();
    const at = { text: 'MAX(value) / 2' };
    const guided = { ...chart, guides: [{ kind: 'line', id: 'l', at, style: 'solid' } as const] };
    const linesWith = (engine: PipelineInput['engine']) => {
      return stages.run(input({ chart: guided, engine })).guides.lines.length;
    };
    expect(linesWith(null)).toBe(0);
    expect(linesWith(fullEngine)).toBe(1);
  });
});

it('very many readings come in many steps, and a chart that is broken off between two is made anew', () => {
  const cells = 100_000;
  const quay = Int32Array.from({ length: cells }, (_, i) => i);
  const many: Cube = {
    ...cube,
    cells,
    dimensions: cube.dimensions.map((dimension, d) =>
      d === 0
        ? { ...dimension, values: Array.from(quay, (i) => `Quay ${i}`), codes: quay }
        : { ...dimension, codes: new Int32Array(cells) },
    ),
    partials: cube.partials.map((partial) => ({ ...partial, values: Float64Array.from(quay) })),
  };
  const stages = chartStages();
  const given = input({ cube: many });
  const begun = stages.steps(given);
  for (let step = 0; step < 5; step++) expect(begun.next().done).toBe(false);
  begun.return(undefined as never);
  const steps = stages.steps(given);
  let count = 0;
  for (;;) {
    const step = steps.next();
    if (step.done) {
      expect(step.value.readings.length).toBe(cells);
      expect(step.value.readings.value).toEqual(chartStages().run(given).readings.value);
      break;
    }
    count++;
  }
  expect(count).toBeGreaterThan((3 * cells) / stepLength);
  expect(allSteps(stages.steps(given)).readings).toBe(stages.run(given).readings);
});
