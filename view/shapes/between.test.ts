import type { Chart } from '@sorvik/core/board/chart';
import type { Cube } from '@sorvik/core/data/cube';
import type { RectMarks } from '@sorvik/core/forms/scene';
import { chart, cube } from '@sorvik/core/testing/fixtures';
import { runChart } from '@sorvik/core/testing/run-chart';
import { expect, it } from 'vitest';
import { sceneBetween } from './between';

/** The fixtures' cube with other boats: Quel, Harl, Ostrin, and the unnamed one. */
const withBoats = (...boats: number[]): Cube => ({
  ...cube,
  partials: cube.partials.map((partial) =>
    partial.aggregate === 'sum' ? { ...partial, values: Float64Array.from(boats) } : partial,
  ),
});
const plain: Chart = { ...chart, cues: [], labels: 'always' };
const nothing = Number.NaN;
const at = (more: Partial<Chart>, ...boats: number[]) =>
  runChart({ ...plain, ...more }, {}, { cube: withBoats(...boats) });
const heights = ({ marks }: { marks: unknown }) => [...(marks as RectMarks).height];
const byName = { order: { by: 'key', direction: 'ascending' } } as const;

it('grows bars from what they were to what they are, with their figures', () => {
  const from = at({ ...byName, form: 'columns' }, 30, 10, 20, nothing, 20, 5, 7);
  const to = at({ ...byName, form: 'columns' }, 10, 10, 20, nothing, 30, 10, 7);
  const scene = sceneBetween(from, to)!;
  expect(heights(scene(0))).toEqual(heights(from.scene));
  expect(heights(scene(1))).toEqual(heights(to.scene));
  heights(scene(0.5)).forEach((height, i) => {
    expect(height).toBeCloseTo((heights(from.scene)[i]! + heights(to.scene)[i]!) / 2, 9);
  });
  const figure = (of: ReturnType<typeof scene>) =>
    of.texts.find(({ mark, role }) => mark === 0 && role === 'value')!;
  expect(figure(scene(0)).y).toBeCloseTo(figure(from.scene).y, 9);
  expect(figure(scene(0)).text).toBe(figure(to.scene).text);
});

it('follows each reading to where it stands now, and lets a new one stand there', () => {
  const order = { order: { by: 'value', direction: 'descending' } } as const;
  const from = at({ ...order, form: 'columns' }, 30, 10, 20, nothing, 30, 5, 7);
  const to = at({ ...order, form: 'columns' }, 1, 20, 90, nothing, 30, 5, 7);
  expect(from.readings.category).toEqual(['Quel', 'Ostrin', 'Harl', null]);
  expect(to.readings.category).toEqual(['Harl', 'Ostrin', 'Quel', null]);
  const start = sceneBetween(from, to)!(0).marks.x;
  const { x } = from.scene.marks;
  expect([...start]).toEqual([x[2], x[1], x[0], x[3]]);

  const fewer = { ...from, readings: { ...from.readings, category: ['Quel', 'Tarsk', 'Harl', null] } };
  expect(sceneBetween(fewer, to)!(0).marks.x[1]).toBe(to.scene.marks.x[1]);
});

it('has no way to another form or another size', () => {
  const from = at({ form: 'columns' }, 30, 10, 20, nothing, 20, 5, 7);
  expect(sceneBetween(from, at({ form: 'line' }, 30, 10, 20, nothing, 20, 5, 7))).toBeNull();
  expect(sceneBetween({ ...from, scene: { ...from.scene, width: 500 } }, from)).toBeNull();
});
