import type { Category } from '../board/category';
import type { Readings } from '../cube/readings';
import type { Interval } from '../levers/lever-kind';
import { addDays, periodEnd, periodOrdinal } from '../periods';
import type { KeyValue } from '../values';
import type { BandAxis } from './scene';

const days = (date: string) => periodOrdinal(date.slice(0, 10), 'day');
const compare = (a: KeyValue, b: KeyValue) =>
  typeof a === 'number' && typeof b === 'number' ? a - b : String(a) < String(b) ? -1 : a === b ? 0 : 1;

/** How many of the rising categories are at or before a value; a missing category stands last and is never counted. */
function bandsUpTo(readings: Readings, count: number, value: KeyValue): number {
  let low = 0;
  let high = count;
  while (high > 0 && readings.category[high - 1] === null) high--;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (compare(readings.category[middle]!, value) <= 0) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Days of a band's period, and the day it starts on; null where bands are no periods. */
function periodOf(value: KeyValue, by: Category): { first: number; length: number } | null {
  if (typeof value !== 'string') return null;
  const first = days(value);
  if (Number.isNaN(first)) return null;
  return { first, length: by.grain ? days(periodEnd(value, by.grain)) - first + 1 : 1 };
}

/** Where on the band axis, px, a day begins (or ends), or a number's band does. Categories rise along the axis. */
function placeOf(
  value: KeyValue,
  edge: 'from' | 'to',
  band: BandAxis,
  readings: Readings,
  by: Category,
): number {
  const before = bandsUpTo(readings, band.count, value);
  if (before === 0) return band.start;
  const index = before - 1;
  const key = readings.category[index]!;
  const period = periodOf(key, by);
  let part: number;
  if (period && typeof value === 'string') {
    const inside = days(value) - period.first + (edge === 'to' ? 1 : 0);
    // A day after the period's last falls into a gap of the data: the next band begins there.
    part = Math.min(1, inside / period.length);
  } else part = compare(key, value) === 0 && edge === 'from' ? 0 : 1;
  return band.start + (index + part) * band.step;
}

/** The stretch of the band axis that an interval covers, px. */
export const stretchOfInterval = (
  { from, to }: Interval,
  band: BandAxis,
  readings: Readings,
  by: Category,
): { start: number; end: number } => ({
  start: placeOf(from, 'from', band, readings, by),
  end: placeOf(to, 'to', band, readings, by),
});

/** The day, or the number, at a place on the band axis, px; null where there are no bands. */
export function valueAtPlace(px: number, band: BandAxis, readings: Readings, by: Category): KeyValue {
  let count = band.count;
  while (count > 0 && readings.category[count - 1] === null) count--;
  if (count === 0) return null;
  const along = Math.max(0, Math.min(count - 1e-9, (px - band.start) / band.step));
  const index = Math.floor(along);
  const key = readings.category[index]!;
  const period = periodOf(key, by);
  if (!period) return key;
  return addDays(String(key).slice(0, 10), Math.floor((along - index) * period.length));
}
