import fc from 'fast-check';
import { expect, it } from 'vitest';
import { greatestOf, leastOf, oppositeOf } from './verdict-lists';

const pairs = fc.array(fc.tuple(fc.constantFrom(0, 1, 2), fc.constantFrom(0, 1, 2)), { maxLength: 40 });
/** The same list, also where it does not begin at a word. */
const listAt = (offset: number, verdicts: readonly number[]) => {
  const list = new Uint8Array(offset + verdicts.length).subarray(offset);
  list.set(verdicts);
  return list;
};

it('are the lesser, the greater and the opposite of each', () => {
  fc.assert(
    fc.property(pairs, fc.nat(5), fc.nat(5), (list, first, second) => {
      const a = list.map(([one]) => one);
      const b = list.map(([, other]) => other);
      const put = (work: (into: Uint8Array, other: Uint8Array) => void) => {
        const into = listAt(first, a);
        work(into, listAt(second, b));
        return [...into];
      };
      expect(put(leastOf)).toEqual(list.map(([one, other]) => Math.min(one, other)));
      expect(put(greatestOf)).toEqual(list.map(([one, other]) => Math.max(one, other)));
      expect([...oppositeOf(listAt(first, a))]).toEqual(a.map((one) => 2 - one));
    }),
    { numRuns: 500 },
  );
});
