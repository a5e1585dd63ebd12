import type { KeyValue } from './values';

/**
 * The aggregated rows of a chart, in its order: series after series, and in each from place to place. A chart that is
 * not split has one series without a name.
 */
export interface Readings {
  length: number;
  /** Per reading the value of its category. */
  category: readonly KeyValue[];
  /** The measure per reading; NaN is null. */
  value: Float64Array;
  /** The places along the axis: each category once, in the chart's order. */
  places: readonly KeyValue[];
  /** Per reading its place. */
  place: Int32Array;
  /** The series; none where the chart is not split. */
  series: readonly KeyValue[];
  /** Per reading its series; 0 where the chart is not split. */
  seriesOf: Int32Array;
  /** Series `s` has the readings from `starts[s]` up to before `starts[s + 1]`. */
  starts: Int32Array;
  /** Further measures that cues compare by, per `measureKey`. */
  others: ReadonlyMap<string, Float64Array>;
  /** Only some categories are kept: of how many, how many are not, and whether those are the last place together. */
  kept?: { of: number; rest: number; together: boolean };
  /** A line leads from each reading to the next of its series, over places that have none. */
  bridged?: true;
  /** Marks of several measures: the readings that conditions judge, each for all of its marks. */
  judged?: Readings;
}

/** Where each reading begins and ends on the value axis; NaN where it has no value. */
export interface Ends {
  from: Float64Array;
  to: Float64Array;
}

/** Where each run of equal, rising numbers starts, and where the last one ends. */
export function startsOf(seriesOf: Int32Array, runs: number): Int32Array {
  const starts = new Int32Array(runs + 1);
  for (let i = 0; i < seriesOf.length; i++) starts[seriesOf[i]! + 1]!++;
  for (let s = 1; s <= runs; s++) starts[s]! += starts[s - 1]!;
  return starts;
}

/** Readings with one for each category, in this order, and no series. */
export function plainReadings(category: readonly KeyValue[], value: Float64Array): Readings {
  const place = Int32Array.from(category, (_, i) => i);
  return {
    length: category.length,
    category,
    value,
    places: category,
    place,
    series: [],
    seriesOf: new Int32Array(category.length),
    starts: Int32Array.of(0, category.length),
    others: new Map(),
  };
}
