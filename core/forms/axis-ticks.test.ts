import { scaleLinear, scaleLog } from 'd3-scale';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { axisTicks, niceEnds } from './axis-ticks';

const count = fc.integer({ min: 1, max: 12 });
const value = fc.integer({ min: -1e9, max: 1e9 }).map((n) => n / 1000);
const positive = fc.double({ min: 1e-6, max: 1e12, noNaN: true });
const ordered = (a: number, b: number): [number, number] => (a < b ? [a, b] : [b, a]);

it('rounds and divides an axis as a scale that everyone knows does', () => {
  fc.assert(
    fc.property(value, value, count, (a, b, n) => {
      fc.pre(a !== b);
      const [low, high] = ordered(a, b);
      const scale = scaleLinear().domain([low, high]);
      expect(axisTicks('even', low, high, n)).toEqual(scale.ticks(n));
      // Of a zero the sign says nothing.
      expect(niceEnds('even', low, high, n).map((end) => end + 0)).toEqual(
        scale
          .nice(n)
          .domain()
          .map((end) => end + 0),
      );
    }),
    { numRuns: 2000 },
  );
});

it('and so a log axis', () => {
  fc.assert(
    fc.property(positive, positive, count, (a, b, n) => {
      fc.pre(Math.max(a, b) / Math.min(a, b) > 1.01);
      const [low, high] = ordered(a, b);
      const scale = scaleLog().domain([low, high]);
      expect(axisTicks('log', low, high, n)).toEqual(scale.ticks(n));
      expect(niceEnds('log', low, high, n)).toEqual(scale.nice().domain());
    }),
    { numRuns: 2000 },
  );
});
