import fc from 'fast-check';
import { expect, it } from 'vitest';
import { condensedLine } from './condensed-line';

/** What of each px across a line covers: from where it comes in to where it goes out, and how far up and down. */
function columns(points: readonly number[]) {
  const found = new Map<number, { first: number; last: number; low: number; high: number }>();
  for (let i = 0; i < points.length; i += 2) {
    const [x, y] = [Math.floor(points[i]!), points[i + 1]!];
    const known = found.get(x) ?? { first: y, last: y, low: y, high: y };
    found.set(x, { ...known, last: y, low: Math.min(known.low, y), high: Math.max(known.high, y) });
  }
  return found;
}

const line = fc
  .record({
    width: fc.integer({ min: 1, max: 30 }),
    heights: fc.array(fc.double({ min: -1000, max: 1000, noNaN: true }), { minLength: 2, maxLength: 2000 }),
  })
  .map(({ width, heights }) => heights.flatMap((y, i) => [3.7 + (width * i) / heights.length, y]));

it('covers the same pixels with four points to a px at most, in their order', () => {
  fc.assert(
    fc.property(line, (points) => {
      const kept = condensedLine(points);
      expect(columns(kept)).toEqual(columns(points));
      const xs = kept.filter((_, i) => i % 2 === 0);
      expect(xs).toEqual(xs.toSorted((a, b) => a - b));
      const dense = points.length / 2 > 6 * (points.at(-2)! - points[0]! + 1);
      if (dense) expect(kept.length / 2).toBeLessThanOrEqual(4 * columns(points).size);
      else expect(kept).toBe(points);
    }),
  );
});

it('keeps a line of one point, and of one that stands upright its ends', () => {
  expect(condensedLine([1, 2])).toEqual([1, 2]);
  const upright = Array.from({ length: 100 }, (_, i) => [5, (i * 37) % 100]).flat();
  const kept = condensedLine(upright).filter((_, i) => i % 2 === 1);
  expect(kept).toEqual([0, 99, 63]);
});
