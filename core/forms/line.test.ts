import { fullEngine } from '@sorvik/formula/full-engine';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Look } from '../board/look';
import type { Condition } from '../conditions/registry';
import { allSteps } from '../data/all-steps';
import type { Readings } from '../data/readings';
import { newCue } from '../edit/defaults';
import { emphasise } from '../pipeline/emphasise';
import { endNames, labelsOf, nameAt } from '../pipeline/labels';
import { lineStatesOf } from '../pipeline/line-states';
import { markersOf } from '../pipeline/markers';
import { points, reach } from '../pipeline/shapes/points';
import { rects } from '../pipeline/shapes/rects';
import { formInput } from '../testing/form-input';
import { seriesReadings } from '../testing/readings';
import { estimateText } from './fit-text';
import type { FormInput } from './form-kind';
import { formKinds } from './registry';
import type { PointMarks, RectMarks, SceneText, SliceMarks } from './scene';

const sceneOf = (form: string, readings: Readings, more: Partial<FormInput> = {}) =>
  allSteps(formKinds.get(form).scene(formInput(readings, { height: 300, ...more })));
const lightsOf = (readings: Readings, condition: Condition, look: Look = {}) =>
  emphasise([{ ...newCue('cue', condition, []), look }], {
    engine: fullEngine,
    readings,
    by: { field: 'n' },
    lever: () => undefined,
    positionOf: () => undefined,
    today: '2024-12-31',
  });
const above = (limit: number): Condition => ({ kind: 'threshold', is: 'above', limit });

describe('lines', () => {
  const two = seriesReadings({ up: [0, 50, 100], down: [100, null, 0] });
  const scene = sceneOf('line', two);
  const { x, y } = scene.marks as PointMarks;
  it('have their points in the middle of their places, at their values', () => {
    const { band, values } = scene;
    expect(x[1]).toBeCloseTo(band.start + 1.5 * band.step, 9);
    expect(y[0]).toBeCloseTo(values.start, 9);
    expect(y[2]).toBeCloseTo(values.end, 9);
    expect(y[1]).toBeCloseTo((values.start + values.end) / 2, 9);
    expect(y[4]).toBeNaN();
    expect([x[3], x[5]]).toEqual([x[0], x[2]]);
  });
  it('leave room for names at their ends', () => {
    expect(scene.namesFrom!).toBeGreaterThan(x[2]!);
    expect(sceneOf('line', seriesReadings({ a: [1] }), { miniature: true }).namesFrom).toBeUndefined();
  });
  it('are found within a distance, and no farther', () => {
    const one = seriesReadings({ a: [10, 10, 10, 10] });
    const flat = sceneOf('line', one);
    const marks = flat.marks as PointMarks;
    const between = (marks.x[1]! + marks.x[2]!) / 2 + 3;
    expect(points.markAt(flat, one, between, marks.y[1]! + reach - 1)).toBe(2);
    expect(points.markAt(flat, one, between, marks.y[1]! + reach + 1)).toBe(-1);
    expect(points.nearest(flat, one, between, marks.y[1]! + 200)).toBe(2);
    expect(points.markAt(flat, seriesReadings({}), 10, 10)).toBe(-1);
  });
  it('the nearest of many lines is the one that measuring each of them finds', () => {
    const value = fc.option(fc.integer({ min: 0, max: 100 }), { freq: 5 });
    const lines = fc.array(fc.array(value, { minLength: 6, maxLength: 6 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(
        lines,
        fc.integer({ min: 60, max: 560 }),
        fc.integer({ min: 20, max: 280 }),
        (list, px, py) => {
          const readings = seriesReadings(Object.fromEntries(list.map((line, i) => [`s${i}`, line])));
          const made = sceneOf('line', readings);
          const at = made.marks as PointMarks;
          const found = points.markAt(made, readings, px, py);
          let least = Number.POSITIVE_INFINITY;
          for (let i = 0; i < readings.length; i++) {
            const next =
              i + 1 < readings.length && readings.seriesOf[i + 1] === readings.seriesOf[i] ? i + 1 : i;
            const end = Number.isNaN(at.y[next]!) ? i : next;
            for (let step = 0; step <= 400; step++) {
              const share = step / 400;
              const away = Math.hypot(
                at.x[i]! + share * (at.x[end]! - at.x[i]!) - px,
                at.y[i]! + share * (at.y[end]! - at.y[i]!) - py,
              );
              if (away < least) least = away;
            }
          }
          if (least > reach + 0.5) expect(found).toBe(-1);
          else if (least < reach - 0.5) expect(found).toBeGreaterThanOrEqual(0);
        },
      ),
      { numRuns: 60 },
    );
  });
  it('the keyboard goes along a line, and from line to line', () => {
    const key = (from: number, step: Parameters<typeof points.step>[3]) =>
      points.step(scene, two, from, step);
    expect([key(-1, 'next'), key(0, 'next'), key(2, 'next'), key(1, 'previous')]).toEqual([0, 1, 2, 0]);
    expect([key(0, 'up'), key(3, 'down'), key(2, 'down'), key(3, 'up')]).toEqual([3, 0, 5, 3]);
    expect([key(4, 'first'), key(4, 'last')]).toEqual([3, 5]);
  });
  it('carry markers where points are lit alone, stand alone, or are asked for', () => {
    const many = seriesReadings({ a: Array.from({ length: 200 }, (_, i) => (i === 70 ? null : i)) });
    const narrow = sceneOf('line', many);
    const marked = (condition: Condition, look?: Look) => {
      const emphasis = lightsOf(many, condition, look);
      return markersOf(narrow, many, emphasis, lineStatesOf(emphasis, many)).map(({ index, shape }) => [
        index,
        shape,
      ]);
    };
    expect(marked({ kind: 'rank', count: 1, side: 'highest', ties: 'share' })).toEqual([[199, 'disc']]);
    expect(marked(above(-1))).toEqual([]);
    expect(marked(above(197), { marker: 'diamond' })).toEqual([
      [198, 'diamond'],
      [199, 'diamond'],
    ]);
    const alone = seriesReadings({ a: [1, null, 3, null] });
    const emphasis = lightsOf(alone, above(99));
    expect(markersOf(sceneOf('line', alone), alone, emphasis, lineStatesOf(emphasis, alone))).toHaveLength(2);
  });
});

it('however many there are, all are drawn: lines, rows of a table, bars, slices', () => {
  const many = seriesReadings(
    Object.fromEntries(Array.from({ length: 3000 }, (_, i) => [`s${i}`, [i + 1, i + 2]])),
  );
  const marksOf = (form: 'line' | 'table' | 'bars') => sceneOf(form, many).marks;
  expect(Array.from(marksOf('line').y).every(Number.isFinite)).toBe(true);
  for (const form of ['table', 'bars'] as const) {
    const { x, height } = marksOf(form) as RectMarks;
    expect([x.length, Array.from(x).every(Number.isFinite)]).toEqual([6000, true]);
    expect(Math.min(...height)).toBeGreaterThan(0);
  }
  const alone = seriesReadings({ a: Array.from({ length: 3000 }, (_, i) => i + 1) });
  const { from, to } = sceneOf('ring', alone).marks as SliceMarks;
  expect(from[0]).toBe(0);
  expect(to[2999]).toBeCloseTo(2 * Math.PI, 9);
  expect(Array.from(from.subarray(1))).toEqual(Array.from(to.subarray(0, -1)));
});

describe('bars and columns of several series', () => {
  const three = seriesReadings({ a: [10, 20], b: [30, undefined], c: [5, 40] });
  it.each(['bars', 'columns'])('%s stand side by side at their place, and are found there', (form) => {
    const scene = sceneOf(form, three);
    const marks = scene.marks as RectMarks;
    const along = form === 'columns' ? marks.x : marks.y;
    const thick = form === 'columns' ? marks.width : marks.height;
    // a, b, c at the first place: readings 0, 2, 3.
    expect(along[2]!).toBeGreaterThanOrEqual(along[0]! + thick[0]! - 1e-9);
    expect(along[3]!).toBeGreaterThanOrEqual(along[2]! + thick[2]! - 1e-9);
    expect(along[1]! - along[0]!).toBeCloseTo(scene.band.step, 9);
    for (let i = 0; i < three.length; i++) {
      const found = rects.markAt(
        scene,
        three,
        marks.x[i]! + marks.width[i]! / 2,
        marks.y[i]! + marks.height[i]! / 2,
      );
      expect(found).toBe(i);
    }
  });
  it('the keyboard goes from bar to bar as they stand', () => {
    const scene = sceneOf('columns', three);
    const walk = [rects.step(scene, three, -1, 'next')];
    for (let i = 0; i < 4; i++) walk.push(rects.step(scene, three, walk.at(-1)!, 'next'));
    expect(walk).toEqual([0, 2, 3, 1, 4]);
  });
  it('however many there are, each is drawn', () => {
    const many = seriesReadings({ a: Array(1500).fill(1), b: Array(1500).fill(2) });
    const scene = sceneOf('columns', many);
    expect(scene.band.count).toBe(1500);
    expect((scene.marks as RectMarks).x.every(Number.isFinite)).toBe(true);
  });
});

const boxOf = ({ x, y, text, anchor }: SceneText, size = 13) => {
  const width = estimateText(text, size, true);
  const left = anchor === 'start' ? x : anchor === 'end' ? x - width : x - width / 2;
  return { left, right: left + width, top: y - 7, bottom: y + 7 };
};
const overlaps = (texts: readonly SceneText[]) => {
  const boxes = texts.map((text) => boxOf(text));
  return boxes.some((a, i) =>
    boxes.some(
      (b, j) =>
        i < j &&
        a.left < b.right - 0.01 &&
        b.left < a.right - 0.01 &&
        a.top < b.bottom - 0.01 &&
        b.top < a.bottom - 0.01,
    ),
  );
};

describe('figures and names on crowded plots', () => {
  const values = fc.array(fc.integer({ min: 0, max: 2_000_000 }), { minLength: 2, maxLength: 60 });
  it('none stands over another, whatever is lit', () => {
    fc.assert(
      fc.property(
        values,
        values,
        fc.integer({ min: 0, max: 2_000_000 }),
        fc.constantFrom('line', 'columns', 'bars'),
        (a, b, limit, form) => {
          const n = Math.min(a.length, b.length);
          const readings = seriesReadings({ first: a.slice(0, n), second: b.slice(0, n) });
          const scene = sceneOf(form, readings);
          const emphasis = lightsOf(readings, above(limit));
          const names = endNames(
            scene,
            readings,
            form === 'line' ? lineStatesOf(emphasis, readings) : [],
            ['first', 'second'],
            estimateText,
          );
          for (const rule of ['always', 'lit', undefined] as const) {
            const { texts } = labelsOf(scene, readings, emphasis, rule, String, estimateText, {
              texts: names,
              lines: [],
              grips: [],
            });
            expect(overlaps([...texts, ...names])).toBe(false);
          }
        },
      ),
      { numRuns: 60 },
    );
  });
  it('lit marks come first, and the rule says which carry a figure', () => {
    const readings = seriesReadings({ a: [1, 9, 2, 8, 3, 7] });
    const scene = sceneOf('line', readings);
    const of = (rule: 'always' | 'lit' | 'never' | undefined, look: Look = {}) =>
      labelsOf(scene, readings, lightsOf(readings, above(6), look), rule, String, estimateText, {
        texts: [],
        lines: [],
        grips: [],
      }).texts.map(({ mark }) => mark);
    expect(of('lit')).toEqual([1, 3, 5]);
    expect(of(undefined)).toEqual([1, 3, 5]);
    expect(of('never')).toEqual([]);
    expect(of('never', { label: true })).toEqual([1, 3, 5]);
    expect(of('always', { label: false })).toEqual([0, 2, 4]);
    expect(of('always').slice(0, 3)).toEqual([1, 3, 5]);
  });
  it('where each figure has room of its own, those not wanted are hidden', () => {
    const readings = seriesReadings({ a: [1, 9] });
    const scene = sceneOf('bars', readings);
    const emphasis = lightsOf(readings, above(6));
    const hidden = (rule: 'lit' | undefined) =>
      labelsOf(scene, readings, emphasis, rule, String, estimateText, { texts: [], lines: [], grips: [] })
        .hidden;
    expect(hidden(undefined)).toBeNull();
    expect([...hidden('lit')!]).toEqual([1, 0]);
  });
  it('of forty names those of lit lines stand at their ends, and can be pointed at', () => {
    const forty = Object.fromEntries(Array.from({ length: 40 }, (_, i) => [`line ${i}`, [i, i + 1]]));
    const readings = seriesReadings(forty);
    const names = Object.keys(forty);
    const scene = sceneOf('line', readings);
    const emphasis = lightsOf(readings, above(36.5));
    const shown = endNames(scene, readings, lineStatesOf(emphasis, readings), names, estimateText);
    expect(shown.map(({ text }) => text)).toEqual(['line 39', 'line 38', 'line 37']);
    expect(overlaps(shown)).toBe(false);
    expect(nameAt(shown, shown[1]!.x + 5, shown[1]!.y)).toBe(38);
    expect(nameAt(shown, 100, shown[1]!.y)).toBe(-1);
    const plain = endNames(
      scene,
      readings,
      lineStatesOf(lightsOf(readings, { kind: 'focus' }), readings),
      names,
      estimateText,
    );
    expect(plain.length).toBeGreaterThan(5);
    expect(overlaps(plain)).toBe(false);
  });
});
