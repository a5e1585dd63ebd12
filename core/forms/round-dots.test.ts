import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { allSteps } from '../data/all-steps';
import { plainReadings } from '../data/readings';
import { dotGrid, nearestDot } from '../pipeline/shapes/dot-grid';
import { shapeKinds } from '../pipeline/shapes/registry';
import { formInput } from '../testing/form-input';
import { seriesReadings } from '../testing/readings';
import { estimateText } from './fit-text';
import type { FormInput } from './form-kind';
import { formKinds } from './registry';
import type { DotMarks, SliceMarks } from './scene';

const dots = (values: number[], more: Partial<FormInput> = {}) =>
  allSteps(
    formKinds
      .get('dots')
      .scene(formInput(plainReadings(values.map(String), Float64Array.from(values)), more)),
  );
const along = (value: number[], low: number, high: number): FormInput['along'] => ({
  value: Float64Array.from(value),
  range: { low, high, scale: 'even' },
  tickTexts: (values) => values.map(String),
  name: 'delay',
  across: 'revenue',
});

describe('dots', () => {
  it('stand over their places', () => {
    const scene = dots([10, 40, 20]);
    const { x, y } = scene.marks as DotMarks;
    const { start, step } = scene.band;
    expect([...x].map((at) => (at - start) / step)).toEqual([0.5, 1.5, 2.5]);
    const { start: zero, end, domain } = scene.values;
    expect([...y]).toEqual([10, 40, 20].map((value) => zero + (value / domain[1]) * (end - zero)));
  });
  it('stand where two measures meet, and nowhere where one is missing', () => {
    const scene = dots([10, 40, 20, Number.NaN], { along: along([0, 5, Number.NaN, 10], 0, 10) });
    const { x, y } = scene.marks as DotMarks;
    const { crossStart, crossEnd } = scene.values;
    expect(x[0]).toBeCloseTo(crossStart, 9);
    expect(x[1]).toBeCloseTo((crossStart + crossEnd) / 2, 9);
    expect([...y].map(Number.isNaN)).toEqual([false, false, true, true]);
    expect(scene.texts.filter(({ role }) => role === 'axis').map(({ text }) => text)).toEqual([
      'revenue',
      'delay',
    ]);
    expect(scene.spots!.of).toBe('name');
  });
  it('are found by the pointer as if each were looked at', () => {
    const coordinate = fc.double({ min: 0, max: 300, noNaN: true });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(coordinate, coordinate), { maxLength: 60 }),
        coordinate,
        coordinate,
        fc.integer({ min: 1, max: 80 }),
        (points, x, y, within) => {
          const xs = Float64Array.from(points, ([px]) => px);
          const ys = Float64Array.from(points, ([, py]) => py);
          const found = nearestDot(dotGrid(xs, ys, 300, 300), xs, ys, x, y, within);
          const away = points.map(([px, py]) => Math.hypot(px - x, py - y));
          const least = Math.min(...away);
          if (least > within) expect(found).toBe(-1);
          else expect(away[found]).toBe(least);
        },
      ),
    );
  });
  it('are walked along one axis and along the other', () => {
    const scene = dots([10, 40, 20], { along: along([5, 1, 9], 0, 10) });
    const { step } = shapeKinds.get('dots');
    const readings = plainReadings(['a', 'b', 'c'], Float64Array.of(10, 40, 20));
    expect(step(scene, readings, 1, 'next')).toBe(0);
    expect(step(scene, readings, 0, 'next')).toBe(2);
    expect(step(scene, readings, 2, 'next')).toBe(2);
    expect(step(scene, readings, 0, 'up')).toBe(2);
    expect(step(scene, readings, 2, 'up')).toBe(1);
    expect(step(scene, readings, -1, 'next')).toBe(1);
    expect(step(dots([]), plainReadings([], new Float64Array(0)), -1, 'next')).toBe(-1);
  });
});

const ring = (values: number[], more: Partial<FormInput> = {}) => {
  const names = values.map((_, i) => `Route number ${i}`);
  const readings = plainReadings(names, Float64Array.from(values));
  return {
    readings,
    scene: allSteps(formKinds.get('ring').scene(formInput(readings, { labels: names, ...more }))),
  };
};

describe('a ring', () => {
  it('gives each reading its share of the turn, in the order of their places', () => {
    const { scene } = ring([50, 30, 20]);
    const { from, to } = scene.marks as SliceMarks;
    const turn = 2 * Math.PI;
    expect([...from].map((angle) => angle / turn)).toEqual([0, 0.5, 0.8]);
    expect(to[2]! / turn).toBeCloseTo(1, 12);
    expect(scene.texts.map(({ text }) => text)).toEqual(
      expect.arrayContaining(['Route number 0 50%', 'Route number 1 30%', 'Route number 2 20%', '100']),
    );
  });
  it('is ordered by places even where each reading is a series of its own', () => {
    const readings = { ...seriesReadings({ a: [undefined, 10], b: [30, undefined] }), places: ['b', 'a'] };
    const { from } = allSteps(formKinds.get('ring').scene(formInput(readings))).marks as SliceMarks;
    expect([...from]).toEqual([(2 * Math.PI * 30) / 40, 0]);
  });
  it('has no slice for what is missing, zero or below, and says how many lie below', () => {
    const { scene } = ring([50, Number.NaN, 0, -10, 50]);
    const { from } = scene.marks as SliceMarks;
    expect([...from].map(Number.isNaN)).toEqual([false, true, true, true, false]);
    expect(scene.beyond).toBe(1);
  });
  it('is the mark under the pointer, or its name is', () => {
    const { scene, readings } = ring([50, 30, 20]);
    const marks = scene.marks as SliceMarks;
    const { markAt } = shapeKinds.get('slices');
    for (const i of [0, 1, 2]) expect(markAt(scene, readings, marks.x[i]!, marks.y[i]!)).toBe(i);
    expect(markAt(scene, readings, marks.centre.x, marks.centre.y)).toBe(-1);
    for (const { mark, x, y, width, height } of marks.names)
      expect(markAt(scene, readings, x + width / 2, y + height / 2)).toBe(mark);
    expect(shapeKinds.get('slices').step(scene, readings, 2, 'next')).toBe(0);
    expect(shapeKinds.get('slices').step(scene, readings, 0, 'previous')).toBe(2);
  });
  it('uses the height of a plot: where names would be cut beside it, they are listed whole below a larger ring', () => {
    const values = [300, 250, 150, 120, 90, 60, 50, 40, 30, 20];
    const { scene } = ring(values, { width: 240, height: 520 });
    const { outer, names } = scene.marks as SliceMarks;
    expect(outer).toBeGreaterThan(90);
    const listed = scene.texts.filter(({ role }) => role === 'category');
    expect(listed.map(({ text }) => text)).toEqual(values.map((_, i) => `Route number ${i}`));
    expect(Math.min(...listed.map(({ y }) => y))).toBeGreaterThan(2 * outer);
    expect(names.map(({ mark }) => mark)).toEqual(values.map((_, i) => i));
    // Where there is room beside it, names stay beside their slices.
    const wide = ring([50, 30, 20], { width: 700, height: 700 }).scene;
    expect(wide.texts.filter(({ role }) => role === 'category').some(({ y }) => y < 400)).toBe(true);
  });
  it('never has a name over another, at any size', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 1000 }), { minLength: 1, maxLength: 60 }),
        fc.integer({ min: 240, max: 1600 }),
        fc.integer({ min: 120, max: 900 }),
        (values, width, height) => {
          const { scene } = ring(values, { width, height });
          const { names, outer, centre } = scene.marks as SliceMarks;
          const apart = names.every((a, i) =>
            names.every(
              (b, j) =>
                i === j ||
                a.x + a.width <= b.x ||
                b.x + b.width <= a.x ||
                a.y + a.height <= b.y + 1e-6 ||
                b.y + b.height <= a.y + 1e-6,
            ),
          );
          expect(apart).toBe(true);
          expect(names.every((name) => name.x >= -3 && name.x + name.width <= width + 3)).toBe(true);
          // The ring itself is whole within the plot.
          expect(centre.x - outer).toBeGreaterThanOrEqual(0);
          expect(centre.y + outer).toBeLessThanOrEqual(height);
          for (const { text } of scene.texts) expect(estimateText(text, 13)).toBeLessThan(width);
        },
      ),
    );
  });
});
