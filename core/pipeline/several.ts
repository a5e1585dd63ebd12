import { type Measure, measureKey } from '../board/measure';
import { measuredBy } from '../conditions/measured';
import type { Readings } from '../data/readings';
import { ints, named } from '../data/typed-lists';

/** `times` copies of a list, one after the other. */
function repeated<T extends Int32Array | Float64Array>(list: T, times: number): T {
  const all = new (list.constructor as new (length: number) => T)(list.length * times);
  for (let t = 0; t < times; t++) all.set(list, t * list.length);
  return all;
}

/**
 * The marks of a chart with several measures: each measure is a series that has a mark for every reading. Conditions go
 * on judging the readings themselves (`judged`), by the first measure or the one they name; what they say holds for all
 * marks of a reading: mark `i` is of reading `i % judged.length`.
 */
export function severalReadings(readings: Readings, measures: readonly Measure[]): Readings {
  const n = readings.length;
  const runs = measures.length;
  const value = new Float64Array(n * runs);
  measures.forEach((measure, m) => {
    value.set(m === 0 ? readings.value : measuredBy(measure, readings).value, m * n);
  });
  const place = repeated(readings.place, runs);
  return {
    ...readings,
    length: n * runs,
    category: named(readings.places, place),
    value,
    place,
    series: measures.map(measureKey),
    seriesOf: ints(n * runs, (i) => Math.floor(i / n)),
    starts: Int32Array.from({ length: runs + 1 }, (_, m) => m * n),
    others: new Map([...readings.others].map(([key, values]) => [key, repeated(values, runs)])),
    judged: readings,
  };
}
