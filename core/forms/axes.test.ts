import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { allSteps } from '../data/all-steps';
import { plainReadings } from '../data/readings';
import { axisRange } from '../pipeline/axis-range';
import { formInput } from '../testing/form-input';
import { formKinds } from './registry';
import type { PointMarks, RectMarks, ValueAxis } from './scene';
import { domainOf, heldOn, isOn, positionOn, ticksOf, valueOn } from './value-axis';

const axis = (domain: [number, number], scale: 'even' | 'log' = 'even'): ValueAxis => ({
  direction: 'y',
  scale,
  domain,
  start: 300,
  end: 100,
  crossStart: 0,
  crossEnd: 400,
});

describe('a value axis', () => {
  it('has each power of ten equally far from the next on a log scale, and nothing at zero', () => {
    const log = axis([1, 10_000], 'log');
    expect([1, 10, 100, 1000, 10_000].map((value) => Math.round(positionOn(log, value) * 1e6) / 1e6)).toEqual(
      [300, 250, 200, 150, 100],
    );
    expect(positionOn(log, 0)).toBeNaN();
    expect(positionOn(log, -5)).toBeNaN();
    expect(heldOn(log, 0)).toBe(300);
  });
  it.each(['even', 'log'] as const)('finds the value of a place again: %s', (scale) => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 1e6, noNaN: true }),
        fc.double({ min: 1.1, max: 1e5, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (low, factor, share) => {
          const own = axis([low, low * factor], scale);
          const value = low + share * (low * factor - low);
          expect(valueOn(own, positionOn(own, value)) / value).toBeCloseTo(1, 6);
        },
      ),
    );
  });
  it('is rounded, but not where the author has fixed it', () => {
    expect(domainOf({ low: 0, high: 97, scale: 'even' }, 5)).toEqual([0, 100]);
    expect(domainOf({ low: 3, high: 97, scale: 'even', keepsLow: true, keepsHigh: true }, 5)).toEqual([
      3, 97,
    ]);
    expect(domainOf({ low: 20, high: 3000, scale: 'log' }, 5)).toEqual([10, 10_000]);
    expect(domainOf({ low: 0, high: 0, scale: 'even' }, 5)).toEqual([0, 1]);
  });
  it('has few, round, rising ticks that it shows', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-3, max: 1e6, noNaN: true }),
        fc.double({ min: 1.5, max: 1e7, noNaN: true }),
        fc.constantFrom('even' as const, 'log' as const),
        fc.integer({ min: 2, max: 8 }),
        (low, factor, scale, count) => {
          const domain = domainOf({ low, high: low * factor, scale }, count);
          const ticks = ticksOf({ scale, domain }, count);
          expect(ticks.length).toBeGreaterThan(0);
          expect(ticks.length).toBeLessThanOrEqual(count * 2 + 2);
          expect(ticks.every((tick, i) => i === 0 || tick > ticks[i - 1]!)).toBe(true);
          expect(ticks.every((tick) => isOn({ domain }, tick))).toBe(true);
        },
      ),
    );
  });
});

describe('what an axis shows', () => {
  const range = (
    own: Parameters<typeof axisRange>[0],
    values: number[],
    others: number[] = [],
    zero = false,
  ) => {
    const { low, high } = axisRange(own, values, others, zero);
    return [low, high];
  };
  it('begins at zero, or below it, unless the author says otherwise', () => {
    expect(range(undefined, [5, 9])).toEqual([0, 9]);
    expect(range(undefined, [-5, 9, Number.NaN])).toEqual([-5, 9]);
    expect(range({ from: 'data' }, [5, 9])).toEqual([5, 9]);
    expect(range({ from: 'data' }, [5, 9], [], true)).toEqual([0, 9]);
    expect(range({ from: 2, to: 50 }, [5, 9])).toEqual([2, 50]);
    expect(range({ from: 2 }, [5, 9], [], true)).toEqual([0, 9]);
  });
  it('grows for the figures of guides, up to an end that is fixed', () => {
    expect(range(undefined, [5, 9], [20, -3])).toEqual([-3, 20]);
    expect(range({ to: 10 }, [5, 9], [20])).toEqual([0, 10]);
  });
  it('has nothing at or below zero on a log scale', () => {
    expect(range({ scale: 'log' }, [0, -4, 5, 900])).toEqual([5, 900]);
    expect(range({ scale: 'log', from: 0 }, [5, 900])).toEqual([5, 900]);
  });
  it('is sound whatever there is: nothing, one figure, ends the wrong way round', () => {
    for (const own of [
      undefined,
      { from: 'data' as const },
      { from: 9, to: 2 },
      { to: -5 },
      { scale: 'log' as const },
    ])
      for (const values of [[], [0], [7], [Number.NaN], [-2, -2]]) {
        const found = axisRange(own, values, [], false);
        const [low, high] = domainOf(found, 5);
        expect(high, JSON.stringify([own, values])).toBeGreaterThan(low);
      }
  });
});

describe('readings beyond an axis', () => {
  const readings = plainReadings(['a', 'b', 'c', 'd'], Float64Array.of(5, 50, 500, 0));
  it('are counted; bars end at its edge', () => {
    const scene = allSteps(
      formKinds
        .get('columns')
        .scene(formInput(readings, { range: { low: 0, high: 100, keepsHigh: true, scale: 'even' } })),
    );
    const { y, height } = scene.marks as RectMarks;
    expect(scene.beyond).toBe(1);
    expect(y[2]).toBeCloseTo(scene.values.end, 9);
    expect(height[1]! * 2).toBeCloseTo(height[2]!, 9);
  });
  it('are led to, and carry no figure, on a line', () => {
    const scene = allSteps(
      formKinds
        .get('line')
        .scene(formInput(readings, { range: { low: 0, high: 100, keepsHigh: true, scale: 'even' } })),
    );
    expect((scene.marks as PointMarks).y[2]).toBeLessThan(scene.values.end);
    expect(scene.spots!.y[2]).toBeNaN();
    expect(scene.beyond).toBe(1);
  });
  it('on a log axis: zero is nowhere', () => {
    const scene = allSteps(
      formKinds.get('line').scene(formInput(readings, { range: { low: 1, high: 1000, scale: 'log' } })),
    );
    const { y } = scene.marks as PointMarks;
    expect(y[3]).toBeNaN();
    expect(scene.beyond).toBe(1);
    expect(y[0]! - y[1]!).toBeCloseTo(y[1]! - y[2]!, 9);
  });
});
