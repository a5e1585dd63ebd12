import { decimal } from '@sorvik/formula/decimal';
import type { Compare } from '../board/compare';
import type { Grain } from '../data/dimension';
import { addDays, isDateText, periodAt, periodOrdinal } from '../data/periods';
import type { Readings } from '../data/readings';
import { floats, floatsInSteps, ints } from '../data/typed-lists';
import type { KeyValue } from '../data/values';

/** How a figure stands against another one; NaN where one is missing, or where there is nothing to divide by. */
const against: Record<Compare['as'], (value: number, other: number) => number> = {
  // What rounding leaves of two that are alike is nought.
  difference: (value, other) =>
    Math.abs(value - other) <= 8 * Number.EPSILON * Math.abs(value) ? 0 : decimal(value - other),
  ratio: (value, other) => (other === 0 ? Number.NaN : decimal(value / other) - 1),
  percent: (value, other) => (other === 0 ? Number.NaN : decimal(value / other) - 1),
};

/** ISO 8601: the year of a week is that of its Thursday, and its first week the one with the 4th of January. */
const thursdayOf = (monday: string) => addDays(monday, 3);
const firstWeekOf = (year: string) => periodOrdinal(`${year}-01-04`, 'week');
const yearText = (year: number) => String(year).padStart(4, '0');

/** The same week of the year before; undefined for a 53rd where that year has none. */
function weekBefore(monday: string): string | undefined {
  const year = Number(thursdayOf(monday).slice(0, 4));
  const week = periodOrdinal(monday, 'week') - firstWeekOf(yearText(year));
  const found = periodAt(firstWeekOf(yearText(year - 1)) + week, 'week');
  return thursdayOf(found).slice(0, 4) === yearText(year - 1) ? found : undefined;
}

/** The same period a year before: the same week of the ISO year before, of the 29th of February the 28th. */
function yearBefore(date: string, grain: Grain): string | undefined {
  if (grain === 'week') return weekBefore(date.slice(0, 10));
  const text: string = `${yearText(Number(date.slice(0, 4)) - 1)}${date.slice(4, 10)}`;
  const exists: boolean = isDateText(text);
  return exists ? text : `${text.slice(0, 8)}28`;
}

/** The category that one is compared with: of a period the one before, or a year before; none otherwise. */
function earlier(
  category: KeyValue,
  grain: Grain | undefined,
  by: 'previous' | 'year',
): KeyValue | undefined {
  if (!grain || !isDateText(category)) return undefined;
  return by === 'year' ? yearBefore(category, grain) : periodAt(periodOrdinal(category, grain) - 1, grain);
}

/** The figure of each series where its category is this one. */
function figuresAt({ places, place, starts, value }: Readings, key: KeyValue): Float64Array {
  const at = places.indexOf(key);
  return floats(starts.length - 1, (series) => {
    for (let i = starts[series]!; i < starts[series + 1]!; i++) if (place[i] === at) return value[i]!;
    return Number.NaN;
  });
}

/** The mean of each series, over the readings that have a value. */
function means({ starts, value }: Readings): Float64Array {
  return floats(starts.length - 1, (series) => {
    let sum = 0;
    let count = 0;
    for (let i = starts[series]!; i < starts[series + 1]!; i++)
      if (!Number.isNaN(value[i]!)) {
        sum += value[i]!;
        count++;
      }
    return count ? sum / count : Number.NaN;
  });
}

/** For each reading the figure that it is compared with; NaN where there is none. */
function* othersOf(
  readings: Readings,
  compare: Compare,
  grain: Grain | undefined,
  reference: KeyValue | undefined,
  whole: () => number,
  before: Readings | null,
): Generator<void, Float64Array> {
  const { length, seriesOf } = readings;
  if (compare.with === 'whole') return new Float64Array(length).fill(whole());
  if (compare.with === 'touched' || compare.with === 'average') {
    const own = compare.with === 'average' ? means(readings) : figuresAt(readings, reference!);
    return yield* floatsInSteps(length, (i) => own[seriesOf[i]!]!);
  }
  const by = compare.with;
  // What filters on the category leave out can still be what the first ones kept are compared with.
  const { places, place, series, value, starts } = before ?? readings;
  const placeOf = new Map(places.map((key, at) => [key, at]));
  // Found once for each category, however many series have a reading of it.
  const otherPlace = ints(readings.places.length, (at) => {
    const key = earlier(readings.places[at]!, grain, by);
    return key === undefined ? -1 : (placeOf.get(key) ?? -1);
  });
  const runs = starts.length - 1;
  const seriesAt = new Map(series.map((key, at) => [key, at]));
  const own = readings.series.length
    ? Int32Array.from(readings.series, (key) => seriesAt.get(key) ?? -1)
    : Int32Array.of(0);
  const found = new Int32Array(places.length * runs).fill(-1);
  for (let i = 0; i < place.length; i++) found[place[i]! * runs + (before ?? readings).seriesOf[i]!] = i;
  yield;
  return yield* floatsInSteps(length, (i) => {
    const at = otherPlace[readings.place[i]!]!;
    const run = own[seriesOf[i]!]!;
    const other = at < 0 || run < 0 ? -1 : found[at * runs + run]!;
    return other < 0 ? Number.NaN : value[other]!;
  });
}

/**
 * The readings as they stand against what they are compared with. The one that a lever names stands at zero, and the
 * figures as they are remain among the others, under `plainKey`. `before` are the same readings over all time, where
 * filters leave earlier periods out. It comes in steps.
 */
export function* comparedReadings(
  readings: Readings,
  compare: Compare,
  grain: Grain | undefined,
  reference: KeyValue | undefined,
  whole: () => number,
  before: Readings | null = null,
): Generator<void, Readings> {
  const zero = compare.missing === 'zero';
  const known = (figure: number) => (zero && Number.isNaN(figure) ? 0 : figure);
  const others = yield* othersOf(readings, compare, grain, reference, whole, before);
  // Without a period before, there is nothing that could be zero.
  const apart = compare.with === 'previous' || compare.with === 'year';
  const stands = against[compare.as];
  return {
    ...readings,
    value: yield* floatsInSteps(readings.length, (i) =>
      stands(known(readings.value[i]!), apart ? others[i]! : known(others[i]!)),
    ),
    others: new Map([...readings.others, [plainKey, readings.value]]),
  };
}

/** Under this name compared readings keep the figures as they are. */
export const plainKey = 'plain';

/** Why nothing can be compared: what it is to be compared with is not there, has no value, or cannot be divided by. */
export type NotCompared = 'gone' | 'no value' | 'zero';

/** Why readings cannot be compared now; null where some can, or where there are none. */
export function notCompared(
  readings: Readings,
  compared: Readings,
  { as, missing }: Compare,
  reference: KeyValue | undefined,
): NotCompared | null {
  if (reference !== undefined && !readings.places.includes(reference)) return 'gone';
  const known = (figure: number) => !Number.isNaN(figure);
  if (compared.value.some(known) || !readings.value.some(known)) return null;
  const divides = as !== 'difference';
  const zeros =
    reference === undefined
      ? divides && missing === 'zero'
      : readings.value.some(
          (value, i) =>
            readings.category[i] === reference && (value === 0 || (missing === 'zero' && !known(value))),
        );
  return divides && zeros ? 'zero' : 'no value';
}
