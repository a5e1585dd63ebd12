import type { MissingRule } from '../board/chart';
import { type Readings, startsOf } from '../data/readings';
import { floats, intsAt, named } from '../data/typed-lists';

/** The readings at these indices; where an index is -1, a reading without a value. */
function taken(readings: Readings, from: Int32Array, place: Int32Array, seriesOf: Int32Array): Readings {
  const pick = (values: Float64Array) =>
    floats(from.length, (i) => (from[i]! < 0 ? Number.NaN : values[from[i]!]!));
  return {
    ...readings,
    length: from.length,
    category: named(readings.places, place),
    value: pick(readings.value),
    place,
    seriesOf,
    starts: startsOf(seriesOf, readings.starts.length - 1),
    others: new Map([...readings.others].map(([key, values]) => [key, pick(values)])),
  };
}

/** A reading at every place of every series: zero where there is none, or none with a value. */
function withZeros(readings: Readings): Readings {
  const places = readings.places.length;
  const runs = readings.starts.length - 1;
  const from = new Int32Array(places * runs).fill(-1);
  for (let i = 0; i < readings.length; i++) from[readings.seriesOf[i]! * places + readings.place[i]!] = i;
  const place = Int32Array.from(from, (_, i) => i % places);
  const seriesOf = Int32Array.from(from, (_, i) => Math.floor(i / places));
  const all = taken(readings, from, place, seriesOf);
  return { ...all, value: all.value.map((value) => (Number.isNaN(value) ? 0 : value)) };
}

/** Only readings with a value, each joined to the next of its series however far apart they are. */
function bridged(readings: Readings): Readings {
  const from = Int32Array.from(readings.place.keys()).filter((i) => !Number.isNaN(readings.value[i]!));
  const own = (of: Int32Array) => intsAt(of, from);
  return { ...taken(readings, from, own(readings.place), own(readings.seriesOf)), bridged: true };
}

/** The readings of a line by the author's word on those that are missing. */
export const filledReadings = (readings: Readings, missing: MissingRule | undefined): Readings =>
  missing === 'zero' ? withZeros(readings) : missing === 'bridged' ? bridged(readings) : readings;
