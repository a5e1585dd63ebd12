import { selectNth } from './select-nth';
import { countBelow, sortedValues } from './sorted-values';

/** Values by their places: of the highest first, the least of their opposites. */
interface Places {
  /** How many have one. */
  ranked: number;
  /** The one at a place, counted from 1, and how many are before it. */
  lastOf(place: number): { value: number; less: number };
}

/** Places in values that have been sorted. */
const placesInSorted = (rising: Float64Array, sign: 1 | -1): Places => ({
  ranked: rising.length,
  lastOf(place) {
    const value = rising[sign === 1 ? rising.length - place : place - 1]!;
    const less =
      sign === 1 ? rising.length - countBelow(rising, value, true) : countBelow(rising, value, false);
    return { value: -sign * value, less };
  },
});

/** Places in values as they stand. */
export function placesIn(values: Float64Array, sign: 1 | -1): Places {
  const rising = sortedValues(values);
  if (rising) return placesInSorted(rising, sign);
  const n = values.length;
  const known = new Float64Array(n);
  const turn = -sign;
  let ranked = 0;
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < n; i++) {
    const place = turn * values[i]!;
    // Without a branch that could be guessed wrong: a missing one is written over by the next.
    known[ranked] = place;
    low = place < low ? place : low;
    high = place > high ? place : high;
    ranked += place <= Number.POSITIVE_INFINITY ? 1 : 0;
  }
  return { ranked, lastOf: (place) => selectNth(known, place - 1, ranked, low, high) };
}
