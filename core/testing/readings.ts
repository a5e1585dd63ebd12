import { type Readings, startsOf } from '../data/readings';
import type { KeyValue } from '../data/values';

/** Readings of several series over the places 0 to n - 1; undefined where a series has no reading, null where no value. */
export function seriesReadings(
  lines: Record<string, (number | null | undefined)[]>,
  places: readonly KeyValue[] = Object.values(lines)[0]?.map((_, i) => i) ?? [],
): Readings {
  const series = Object.keys(lines);
  const found = series.flatMap((name, s) =>
    lines[name]!.flatMap((value, place) => (value === undefined ? [] : [{ s, place, value }])),
  );
  const seriesOf = Int32Array.from(found, ({ s }) => s);
  return {
    length: found.length,
    category: found.map(({ place }) => places[place]!),
    value: Float64Array.from(found, ({ value }) => value ?? Number.NaN),
    places,
    place: Int32Array.from(found, ({ place }) => place),
    series,
    seriesOf,
    starts: startsOf(seriesOf, series.length),
    others: new Map(),
  };
}
