import type { Readings } from '@sorvik/core/data/readings';

const keyOf = ({ category, series, seriesOf }: Readings, i: number): string =>
  `${typeof category[i]} ${category[i]} ${series.length ? series[seriesOf[i]!] : ''}`;

/** Where each reading was among those before, -1 for one that is new: the same category, and the same series of it. */
export function sameReadings(before: Readings, now: Readings): Int32Array {
  const known = new Map(Array.from({ length: before.length }, (_, i) => [keyOf(before, i), i]));
  return Int32Array.from({ length: now.length }, (_, i) => known.get(keyOf(now, i)) ?? -1);
}
