import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seriesReadings } from '../testing/readings';
import { endsOf } from './stack';

describe('ends on the value axis', () => {
  const readings = seriesReadings({ a: [1, -2, null], b: [3, 4, undefined], c: [4, -2, 0] });
  const pairs = (arrangement: 'beside' | 'stacked' | 'shares') => {
    const { from, to } = endsOf(readings, arrangement);
    return Array.from(from, (each, i) => [each, to[i]]);
  };
  it('stand on zero beside each other', () => {
    expect(pairs('beside').map(([from]) => from)).toEqual(Array(8).fill(0));
  });
  it('stand on each other in a stack, negative ones downwards', () => {
    expect(pairs('stacked')).toEqual([
      [0, 1],
      [0, -2],
      [Number.NaN, Number.NaN],
      [1, 4],
      [0, 4],
      [4, 8],
      [-2, -4],
      [0, 0],
    ]);
  });
  it('are parts of one whole as shares; of nothing there are none', () => {
    expect(pairs('shares')).toEqual([
      [0, 0.125],
      [0, -0.25],
      [Number.NaN, Number.NaN],
      [0.125, 0.5],
      [0, 0.5],
      [0.5, 1],
      [-0.25, -0.5],
      [Number.NaN, Number.NaN],
    ]);
  });
  it('shares of positive readings end at one, in every place', () => {
    const value = fc.integer({ min: 0, max: 1000 });
    fc.assert(
      fc.property(fc.array(fc.tuple(value, value, value), { minLength: 1, maxLength: 10 }), (places) => {
        const lines = Object.fromEntries(
          ['a', 'b', 'c'].map((name, s) => [name, places.map((row) => row[s]!)]),
        );
        const made = seriesReadings(lines);
        const { from, to } = endsOf(made, 'shares');
        places.forEach((row, place) => {
          const last = 2 * places.length + place;
          const sum = row.reduce((a, b) => a + b, 0);
          if (sum) expect(to[last]).toBeCloseTo(1, 12);
          else expect(to[last]).toBeNaN();
          expect(from[place] === 0 || sum === 0).toBe(true);
        });
      }),
    );
  });
});
