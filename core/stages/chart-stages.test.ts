import { describe, expect, it } from 'vitest';
import { estimateText } from '../forms/fit-text';
import { board, chart, cube, dataset } from '../testing/fixtures';
import { chartStages, type StageInput } from './chart-stages';

const input = (changes: Partial<StageInput> = {}): StageInput => ({
  board,
  chart,
  dataset,
  cube,
  positions: {},
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
    expect(stages.runs).toEqual({ readings: 1, scene: 1, emphasis: 2 });
    expect(after.scene).toBe(before.scene);
    expect(after.emphasis.litCount).toBe(1);
  });
  it('a lever that filters recomputes all that hangs on the readings', () => {
    const stages = chartStages();
    stages.run(input());
    stages.run(input({ positions: { years: ['2024-01-01'] } }));
    expect(stages.runs).toEqual({ readings: 2, scene: 2, emphasis: 2 });
  });
  it("another chart's lever, or the same position again, recomputes nothing", () => {
    const stages = chartStages();
    const picked = ['Harl'];
    stages.run(input({ positions: { quays: picked } }));
    stages.run(input({ positions: { quays: picked, other: ['x'] } }));
    expect(stages.runs).toEqual({ readings: 1, scene: 1, emphasis: 1 });
  });
  it('another size moves marks only', () => {
    const stages = chartStages();
    stages.run(input());
    stages.run(input({ width: 500 }));
    expect(stages.runs).toEqual({ readings: 1, scene: 2, emphasis: 1 });
  });
  it('a change of words that is not about it leaves a stage alone', () => {
    const stages = chartStages();
    stages.run(input());
    stages.run(input({ chart: { ...chart, title: 'Other' } }));
    expect(stages.runs).toEqual({ readings: 1, scene: 1, emphasis: 1 });
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
