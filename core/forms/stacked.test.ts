import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Chart } from '../board/chart';
import { allSteps } from '../data/all-steps';
import type { Readings } from '../data/readings';
import { newCue } from '../edit/defaults';
import { readBoard } from '../edit/read-board';
import { removeLever } from '../edit/remove-lever';
import type { Lever } from '../levers/registry';
import { leverUses } from '../pipeline/lever-uses';
import { groundOf, linePoints, piecePoints } from '../pipeline/piece-points';
import { rects } from '../pipeline/shapes/rects';
import { endsOf } from '../pipeline/stack';
import { board, chart, dataset, positionsAt } from '../testing/fixtures';
import { formInput } from '../testing/form-input';
import { seriesReadings } from '../testing/readings';
import { runChart } from '../testing/run-chart';
import { chartSentences } from '../text/chart-sentences';
import { sentenceText } from '../words/sentence';
import { vocabularyOf } from '../words/vocabulary';
import { formKinds } from './registry';
import type { PointMarks, RectMarks, Scene } from './scene';
import { positionOn } from './value-axis';

const three = seriesReadings({ a: [10, 20], b: [30, null], c: [5, 40] });
const stacked = (form: string, readings: Readings, wholes: Float64Array | null = null) =>
  allSteps(
    formKinds.get(form).scene(
      formInput(readings, {
        ends: endsOf(readings, 'stacked'),
        stacked: true,
        range: { low: 0, high: Math.max(60, ...(wholes ?? [])), scale: 'even' },
        wholes,
      }),
    ),
  );

describe.each(['bars', 'columns'])('stacked %s', (form) => {
  const scene = stacked(form, three);
  const marks = scene.marks as RectMarks;
  const along = (i: number) =>
    form === 'bars'
      ? [marks.x[i]!, marks.x[i]! + marks.width[i]!]
      : [marks.y[i]! + marks.height[i]!, marks.y[i]!];
  const at = (value: number) => positionOn(scene.values, value);
  it('stand on each other', () => {
    // At the first place a is reading 0, b 2, c 4; at the second b has no value.
    const ends: [number, number, number][] = [
      [0, 0, 10],
      [2, 10, 40],
      [4, 40, 45],
      [1, 0, 20],
      [5, 20, 60],
    ];
    for (const [i, from, to] of ends) {
      expect(along(i)[0]).toBeCloseTo(at(from), 9);
      expect(along(i)[1]).toBeCloseTo(at(to), 9);
    }
  });
  it('are as thick as a single one, and found where they lie', () => {
    const thick = form === 'bars' ? marks.height : marks.width;
    expect(new Set([0, 1, 2, 4, 5].map((i) => thick[i])).size).toBe(1);
    for (const i of [0, 1, 2, 4, 5])
      expect(
        rects.markAt(scene, three, marks.x[i]! + marks.width[i]! / 2, marks.y[i]! + marks.height[i]! / 2),
      ).toBe(i);
  });
  it('are filled up to a whole, from where the last one ends', () => {
    const filled = stacked(form, three, Float64Array.of(100, 100));
    const { rests } = filled.marks as RectMarks;
    const length = form === 'bars' ? 'width' : 'height';
    const unit = Math.abs(positionOn(filled.values, 1) - positionOn(filled.values, 0));
    expect(rests.map((rest) => Math.round(rest[length] / unit))).toEqual([55, 40]);
    expect((stacked(form, three, Float64Array.of(50, 50)).marks as RectMarks).rests).toHaveLength(1);
    expect(marks.rests).toEqual([]);
  });
});

describe('areas', () => {
  const two = seriesReadings({ a: [10, 20, 10], b: [5, 5, 15] });
  const scene = stacked('area', two);
  const { y, base } = scene.marks as PointMarks;
  const at = (value: number) => positionOn(scene.values, value);
  it('stand on what is below them in a stack', () => {
    expect([...y].map((px) => Math.round(px))).toEqual(
      [10, 20, 10, 15, 25, 25].map((v) => Math.round(at(v))),
    );
    expect([...base!].map((px) => Math.round(px))).toEqual(
      [0, 0, 0, 10, 20, 10].map((v) => Math.round(at(v))),
    );
  });
  it('have a ground that goes along the line and back along its base', () => {
    const ground = groundOf(linePoints(scene, two, 1)[0]!, linePoints(scene, two, 1, 'base')[0]!);
    const ys = ground.filter((_, i) => i % 2 === 1).map((px) => Math.round(px));
    expect(ys).toEqual([15, 25, 25, 10, 20, 10].map((value) => Math.round(at(value))));
    const piece = { from: 1, to: 2, look: 0, reading: 3 };
    const [, top] = piecePoints(scene, two, piece);
    const [, foot] = piecePoints(scene, two, piece, 'base');
    expect(top).toBeCloseTo(at(20), 9);
    expect(foot).toBeCloseTo(at(15), 9);
  });
});

it('a table has a row for each reading, place after place', () => {
  const scene = allSteps(formKinds.get('table').scene(formInput(three))) as Scene & { marks: RectMarks };
  const rows = scene.texts.filter(({ role }) => role === 'value').map(({ mark, text, y }) => [mark, text, y]);
  expect(rows.map(([mark]) => mark)).toEqual([0, 2, 4, 1, 3, 5]);
  const steps = rows.slice(1).map(([, , y], i) => Number(y) - Number(rows[i]![2]));
  expect(new Set(steps)).toEqual(new Set([24]));
  expect(scene.texts.filter(({ role }) => role === 'name').map(({ text }) => text)).toEqual([
    'a',
    'b',
    'c',
    'a',
    'b',
    'c',
  ]);
  const { x, width } = scene.marks;
  expect(width[5]! / width[0]!).toBeCloseTo(4, 9);
  expect(x[0]).toBe(x[5]);
  const second = Number(rows[1]![2]);
  expect(rects.markAt(scene, three, 300, second)).toBe(2);
  expect(rects.step(scene, three, 2, 'down')).toBe(4);
});

describe('on a chart', () => {
  const split: Chart = {
    ...chart,
    form: 'columns',
    by: { field: 'day', grain: 'year' },
    split: { field: 'quay', colours: 'own', arrange: 'stacked' },
    order: { by: 'key', direction: 'ascending' },
    cues: [],
    touches: [],
  };
  const run = (changes: Partial<Chart>, positions = {}) => {
    const on = { ...split, ...changes };
    return runChart(on, positions, { board: { ...board, charts: [on] }, width: 500, height: 300 });
  };
  it('the axis is long enough for the stack, or for one whole', () => {
    // 30 + 20 + 20 + 7 boats in the first year.
    expect(run({}).scene.values.domain[1]).toBeGreaterThanOrEqual(77);
    const shares = run({ split: { ...split.split!, arrange: 'shares' } }).scene;
    expect(shares.values.domain).toEqual([0, 1]);
    expect(shares.texts.find(({ role }) => role === 'tick')!.text).toBe('0%');
    expect(run({ form: 'line' }).scene.values.domain[1]).toBeLessThan(40);
  });
  it('wholes are totals of everything, of what is kept, the largest, a measure of each, or a figure', () => {
    const single = { split: undefined, form: 'bars', by: { field: 'quay' } } as unknown as Partial<Chart>;
    const whole = (changes: Chart['whole'], positions = {}) => {
      const keep = { ...newCue('keep', { kind: 'member', lever: 'years' }, []), effect: 'filter' as const };
      const { scene } = run({ ...single, cues: [keep], whole: changes! }, positions);
      const { rests, x, width } = scene.marks as RectMarks;
      const unit = positionOn(scene.values, 1) - positionOn(scene.values, 0);
      return Math.round((rests[0]!.x + rests[0]!.width - x[0]!) / unit) + 0 * width.length;
    };
    const one = { years: ['2024-01-01'] };
    expect(whole({ of: 'everything' }, one)).toBe(92);
    expect(whole({ of: 'filters' }, one)).toBe(15);
    expect(whole({ of: 'figure', figure: 50 }, one)).toBe(50);
    const most = { aggregate: 'sum', field: 'boats' } as const;
    // Harl, which comes first, has 20 boats in all, none in that year, and two rows there.
    expect(whole({ of: 'measure', measure: most, over: 'everything' }, one)).toBe(20);
    expect(whole({ of: 'measure', measure: { aggregate: 'count' } }, one)).toBe(2);
    const largest = run({ ...single, whole: { of: 'largest' } }).scene.marks as RectMarks;
    expect(largest.rests).toHaveLength(3);
  });
  it('the largest of stacks is the highest top', () => {
    const { rests } = run({ whole: { of: 'largest' } }).scene.marks as RectMarks;
    // The first year has 77 boats in all and is whole; the second has 15.
    expect(rests).toHaveLength(1);
  });
  it('a sentence says it, and says where it cannot be', () => {
    const words = vocabularyOf(board, dataset, fullEngine);
    const said = (changes: Partial<Chart>) =>
      chartSentences({ ...split, ...changes }, board, words).find(({ id }) => id === 'whole')!;
    expect(sentenceText(said({ whole: { of: 'filters' } }))).toBe(
      'Extends each column to the filtered total with a muted part.',
    );
    expect(said({ whole: { of: 'filters' } }).problem).toBeUndefined();
    expect(said({ whole: { of: 'filters' }, form: 'line' }).problem).toContain('Only single or stacked');
  });
});

it('a whole and a stand-in outlive the lever they are taken from, as what it held', () => {
  const limit: Lever = {
    kind: 'number',
    id: 'limit',
    name: 'Limit',
    min: 0,
    max: 100,
    step: 1,
    start: 60,
    outside: 'nearest',
    clearing: 'start',
  };
  const cue = newCue('top', { kind: 'rank', count: { lever: 'limit' }, side: 'highest', ties: 'share' }, []);
  const on: Chart = {
    ...chart,
    cues: [{ ...cue, resting: { lever: 'limit', position: 3 } }],
    touches: [],
    whole: { of: 'figure', figure: { lever: 'limit' } },
  };
  const draft = structuredClone({ ...board, levers: [limit], charts: [on] });
  expect(leverUses(on).map(({ how, pointer }) => [how, pointer])).toContainEqual(['places', '/whole/figure']);
  const levers = draft.levers;
  removeLever(draft, 'limit', {
    engine: fullEngine,
    lever: (id) => levers.find((lever) => lever.id === id),
    positionOf: positionsAt(levers, {}),
    today: '2024-12-31',
  });
  expect(draft.charts[0]!.whole).toEqual({ of: 'figure', figure: 60 });
  expect(draft.charts[0]!.cues[0]).toMatchObject({ resting: 'plain', condition: { count: 60 } });
  expect(readBoard(JSON.parse(JSON.stringify(draft))).ok).toBe(true);
});
