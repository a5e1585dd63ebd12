import type { Dimension } from './dimension';
import { addDays, periodEnd, periodOrdinal } from './periods';
import type { KeyValue } from './values';

const days = (date: string) => periodOrdinal(date.slice(0, 10), 'day');
const compare = (a: KeyValue, b: KeyValue) =>
  typeof a === 'number' && typeof b === 'number' ? a - b : String(a) < String(b) ? -1 : a === b ? 0 : 1;

/** How many places carry a category; a missing one stands last. */
function namedPlaces(places: readonly KeyValue[], count = places.length): number {
  let named = Math.min(count, places.length);
  while (named > 0 && places[named - 1] === null) named--;
  return named;
}

/** Whether the categories rise along the axis, so that stretches of values are stretches of it. */
export function placesRise(places: readonly KeyValue[]): boolean {
  const named = namedPlaces(places);
  return named < 2 || compare(places[0]!, places[named - 1]!) < 0;
}

/** How many of the rising places are at or before a value. */
function placesUpTo(places: readonly KeyValue[], value: KeyValue): number {
  let low = 0;
  let high = namedPlaces(places);
  while (low < high) {
    const middle = (low + high) >> 1;
    if (compare(places[middle]!, value) <= 0) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** First day and days of a place's period; null where places are no periods. */
function periodOf(value: KeyValue, by: Dimension): { first: number; length: number } | null {
  if (typeof value !== 'string') return null;
  const first = days(value);
  if (Number.isNaN(first)) return null;
  return { first, length: by.grain ? days(periodEnd(value, by.grain)) - first + 1 : 1 };
}

/**
 * Where a day begins (or ends), or a number does, along rising places: place `i` reaches from `i` to `i + 1`, and a
 * period is passed through day by day.
 */
export function axisPlace(
  value: KeyValue,
  edge: 'from' | 'to',
  places: readonly KeyValue[],
  by: Dimension,
): number {
  const before = placesUpTo(places, value);
  if (before === 0) return 0;
  const index = before - 1;
  const key = places[index]!;
  const period = periodOf(key, by);
  if (!period || typeof value !== 'string')
    return index + (compare(key, value) === 0 && edge === 'from' ? 0 : 1);
  const inside = days(value) - period.first + (edge === 'to' ? 1 : 0);
  // A day after the period's last falls into a gap of the data: the next place begins there.
  return index + Math.min(1, inside / period.length);
}

/** The day, or the number, at a point along the first `count` places; null where there are none. */
export function axisValue(
  along: number,
  places: readonly KeyValue[],
  by: Dimension,
  count = places.length,
): KeyValue {
  const named = namedPlaces(places, count);
  if (named === 0) return null;
  const within = Math.max(0, Math.min(named - 1e-9, along));
  const index = Math.floor(within);
  const key = places[index]!;
  const period = periodOf(key, by);
  if (!period) return key;
  return addDays(String(key).slice(0, 10), Math.floor((within - index) * period.length));
}
