import fc from 'fast-check';
import { expect, it } from 'vitest';
import { selectNth } from './select-nth';

const nth = (given: Float64Array, k: number, length = given.length) => {
  const seen = given.subarray(0, length);
  return selectNth(
    given,
    k,
    length,
    seen.reduce((a, b) => Math.min(a, b)),
    seen.reduce((a, b) => Math.max(a, b)),
  );
};

it('finds what sorting would put there and how many are less, and leaves the values as they are', () => {
  const figure = fc.oneof(fc.integer({ min: -5, max: 5 }), fc.double({ noNaN: true }));
  fc.assert(
    fc.property(fc.array(figure, { minLength: 1 }), fc.nat(), (values, at) => {
      const given = Float64Array.from(values);
      const k = at % values.length;
      const sorted = [...values].sort((a, b) => a - b);
      const { value, less } = nth(given, k);
      // 0 and -0 are equal here: either may be found.
      expect(value === sorted[k]).toBe(true);
      expect(less).toBe(values.filter((each) => each < sorted[k]!).length);
      expect([...given]).toEqual(values);
    }),
  );
});
it('does not dwell on sorted or equal values', () => {
  for (const make of [(i: number) => i, (i: number) => -i, () => 7]) {
    const given = Float64Array.from({ length: 100_000 }, (_, i) => make(i));
    expect(nth(given, 31_415).value).toBe(Float64Array.from(given).sort()[31_415]);
  }
});
it('looks at the first values only, where it is told how many', () => {
  expect(nth(Float64Array.of(3, 1, 2, -9), 0, 3)).toEqual({ value: 1, less: 0 });
});
