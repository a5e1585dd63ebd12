import fc from 'fast-check';
import { expect, it } from 'vitest';
import { markRanks } from './rank';
import { countBelow, sortedValues } from './sorted-values';

const figure = fc.oneof(
  fc.integer({ min: -30, max: 30 }),
  fc.constantFrom(Number.NaN, -0, 0, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, 1e-300),
);

it('ranks again as it ranked at first', () => {
  fc.assert(
    fc.property(
      fc.array(figure, { minLength: 1000, maxLength: 1200 }),
      fc.integer({ min: 0, max: 1300 }),
      fc.constantFrom(1 as const, -1 as const),
      fc.constantFrom('share' as const, 'first' as const),
      (list, count, sign, ties) => {
        const values = Float64Array.from(list);
        const times = Array.from({ length: 4 }, () => {
          const verdict = new Uint8Array(values.length);
          return { ...markRanks(values, count, sign, ties, verdict), verdict };
        });
        // By now they are sorted.
        expect(sortedValues(values)).not.toBeNull();
        for (const again of times) expect(again).toEqual(times[0]);
      },
    ),
    { numRuns: 150 },
  );
});

it('sorts what is asked for again and again, and nothing short', () => {
  const many = Float64Array.from({ length: 1000 }, (_, i) => (i % 7 === 0 ? Number.NaN : 1000 - i));
  expect([sortedValues(many), sortedValues(many)]).toEqual([null, null]);
  const rising = sortedValues(many)!;
  expect(rising).toHaveLength(857);
  expect([...rising].every((value, i) => i === 0 || value >= rising[i - 1]!)).toBe(true);
  const few = Float64Array.of(3, 1, 2);
  for (let i = 0; i < 5; i++) expect(sortedValues(few)).toBeNull();
});

it('counts what is below', () => {
  const rising = Float64Array.of(-1, 0, 2, 2, 2, 5);
  expect([-2, -1, 2, 3, 9].map((value) => countBelow(rising, value, false))).toEqual([0, 0, 2, 5, 6]);
  expect([-2, -1, 2, 3, 9].map((value) => countBelow(rising, value, true))).toEqual([0, 1, 5, 5, 6]);
});
