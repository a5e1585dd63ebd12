/** Sorting takes longer than finding one place: it is worth it for what is ranked again and again. */
const timesBefore = 2;
const fewest = 1000;

const asked = new WeakMap<Float64Array, number>();
const sorted = new WeakMap<Float64Array, Float64Array>();

/**
 * The values of a list in rising order, without those that are missing (NaN), once it is asked for them again and again: as a
 * lever moves, the same figures are ranked with each step. null until then, and for short lists. The list must not change.
 */
export function sortedValues(values: Float64Array): Float64Array | null {
  if (values.length < fewest) return null;
  const known = sorted.get(values);
  if (known) return known;
  const times = asked.get(values) ?? 0;
  asked.set(values, times + 1);
  if (times < timesBefore) return null;
  const made = values.filter((value) => !Number.isNaN(value)).sort();
  sorted.set(values, made);
  return made;
}

/** How many of some values, in rising order, are less than one, or with `alike` less or equal. */
export function countBelow(rising: Float64Array, value: number, alike: boolean): number {
  let low = 0;
  let high = rising.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    const each = rising[middle]!;
    if (each < value || (alike && each === value)) low = middle + 1;
    else high = middle;
  }
  return low;
}
