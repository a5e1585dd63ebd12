import type { Order } from '../board/order';
import { restCategory } from '../data/kept-categories';
import { type Readings, startsOf } from '../data/readings';
import { floatsAt, ints, intsAt, named } from '../data/typed-lists';
import { compareKeys, type KeyValue } from '../data/values';
import type { Interval, Stretch } from '../levers/lever-kind';

/** The first index of a list, rising by `after`, from which `after(index)` holds. */
function firstWhere(from: number, to: number, after: (index: number) => boolean): number {
  let low = from;
  let high = to;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (after(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** The readings at these indices, which run as they ran, with their places as they are numbered now. */
function chosen(
  readings: Readings,
  kept: Int32Array,
  places: readonly KeyValue[],
  placeNow: (place: number) => number,
): Readings {
  const seriesOf = intsAt(readings.seriesOf, kept);
  const place = ints(kept.length, (i) => placeNow(readings.place[kept[i]!]!));
  return {
    length: kept.length,
    category: named(places, place),
    value: floatsAt(readings.value, kept),
    places,
    place,
    series: readings.series,
    seriesOf,
    starts: startsOf(seriesOf, readings.starts.length - 1),
    others: new Map([...readings.others].map(([key, values]) => [key, floatsAt(values, kept)])),
    ...(readings.kept ? { kept: { ...readings.kept, together: places.at(-1) === restCategory } } : {}),
    ...(readings.bridged ? { bridged: true as const } : {}),
  };
}

/** The stretch of places, in the order of their categories, that lies in an interval. */
function placesWithin(places: readonly KeyValue[], rising: boolean, { from, to }: Interval) {
  let count = places.length;
  while (count > 0 && places[count - 1] === null) count--;
  const start = firstWhere(0, count, (i) =>
    rising ? compareKeys(places[i]!, from) >= 0 : compareKeys(places[i]!, to) <= 0,
  );
  const end = firstWhere(0, count, (i) =>
    rising ? compareKeys(places[i]!, to) > 0 : compareKeys(places[i]!, from) < 0,
  );
  return { start, end: Math.max(start, end) };
}

/** The places of a chart in an order of its own that a stretch has in view; the last page is full. */
function placesInView(places: readonly KeyValue[], { offset, length }: Stretch): Int32Array {
  const named = Int32Array.from(places.keys()).filter((at) => places[at] !== null);
  const start = Math.max(0, Math.min(offset, named.length - length));
  return named.subarray(start, start + length);
}

/**
 * The readings at the places of a stretch. In the order of their categories that is a slice of each series, found by
 * halving however long the axis is; in another order the places are counted as they stand.
 */
export function readingsInView(readings: Readings, order: Order, stretch: Stretch): Readings {
  const { places, place, starts } = readings;
  if (order.by !== 'key') {
    const inView = placesInView(places, stretch);
    const now = new Int32Array(places.length).fill(-1);
    inView.forEach((at, i) => {
      now[at] = i;
    });
    const kept = Int32Array.from(place.keys()).filter((i) => now[place[i]!]! >= 0);
    return chosen(readings, kept, named(places, inView), (at) => now[at]!);
  }
  const { start, end } = placesWithin(places, order.direction === 'ascending', stretch);
  const kept = new Int32Array(readings.length);
  let count = 0;
  for (let s = 0; s + 1 < starts.length; s++) {
    const first = firstWhere(starts[s]!, starts[s + 1]!, (i) => place[i]! >= start);
    const last = firstWhere(first, starts[s + 1]!, (i) => place[i]! >= end);
    for (let i = first; i < last; i++) kept[count++] = i;
  }
  return chosen(readings, kept.subarray(0, count), places.slice(start, end), (at) => at - start);
}
