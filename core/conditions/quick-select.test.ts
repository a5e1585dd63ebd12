import fc from 'fast-check';
import { expect, it } from 'vitest';
import { quickSelect } from './quick-select';

it('finds what sorting would put there, and leaves the same values behind', () => {
  const values = fc.array(fc.oneof(fc.integer({ min: -5, max: 5 }), fc.double({ noNaN: true })), {
    minLength: 1,
  });
  fc.assert(
    fc.property(values, fc.nat(), (list, n) => {
      const k = n % list.length;
      const given = Float64Array.from(list);
      const sorted = Float64Array.from(list).sort();
      expect(quickSelect(given, k) - sorted[k]! || 0).toBe(0);
      expect([...given].sort((a, b) => a - b).map((each) => each + 0)).toEqual(
        [...sorted].map((each) => each + 0),
      );
    }),
  );
});
it('does not dwell on sorted or equal values', () => {
  for (const make of [(i: number) => i, (i: number) => -i, () => 7]) {
    const given = Float64Array.from({ length: 100_000 }, (_, i) => make(i));
    const expected = Float64Array.from(given).sort()[31_415];
    expect(quickSelect(given, 31_415)).toBe(expected);
  }
});
it('looks at the first values only, where it is told how many', () => {
  expect(quickSelect(Float64Array.of(3, 1, 2, -9), 0, 3)).toBe(1);
});
