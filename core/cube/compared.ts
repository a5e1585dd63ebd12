import type { Compare } from '../board/compare';
import type { Grain } from '../grain';
import { isDateText, periodAt, periodOrdinal } from '../periods';
import { floats } from '../typed-lists';
import type { KeyValue } from '../values';
import type { Readings } from './readings';

/** How a figure stands against another one; NaN where one is missing, or where there is nothing to divide by. */
const against: Record<Compare['as'], (value: number, other: number) => number> = {
  difference: (value, other) => value - other,
  ratio: (value, other) => (other === 0 ? Number.NaN : value / other - 1),
  percent: (value, other) => (other === 0 ? Number.NaN : value / other - 1),
};

/** The same period a year before: of a week that with its number of weeks before, of the 29th of February the 28th. */
function yearBefore(date: string, grain: Grain): string {
  if (grain === 'week') return periodAt(periodOrdinal(date, grain) - 52, grain);
  const text: string = `${String(Number(date.slice(0, 4)) - 1).padStart(4, '0')}${date.slice(4, 10)}`;
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
function othersOf(
  readings: Readings,
  compare: Compare,
  grain: Grain | undefined,
  reference: KeyValue | undefined,
  whole: () => number,
): Float64Array {
  const { length, seriesOf, category, places, place, value } = readings;
  if (compare.with === 'whole') return new Float64Array(length).fill(whole());
  if (compare.with === 'touched' || compare.with === 'average') {
    const own = compare.with === 'average' ? means(readings) : figuresAt(readings, reference!);
    return floats(length, (i) => own[seriesOf[i]!]!);
  }
  const by = compare.with;
  const placeOf = new Map(places.map((key, at) => [key, at]));
  const runs = readings.starts.length - 1;
  const found = new Int32Array(places.length * runs).fill(-1);
  for (let i = 0; i < length; i++) found[place[i]! * runs + seriesOf[i]!] = i;
  return floats(length, (i) => {
    const at = placeOf.get(earlier(category[i]!, grain, by) as KeyValue);
    const other = at === undefined ? -1 : found[at * runs + seriesOf[i]!]!;
    return other < 0 ? Number.NaN : value[other]!;
  });
}

/**
 * The readings as they stand against what they are compared with. The one that a lever names stands at zero, and the
 * figures as they are remain among the others, under `plainKey`.
 */
export function comparedReadings(
  readings: Readings,
  compare: Compare,
  grain: Grain | undefined,
  reference: KeyValue | undefined,
  whole: () => number,
): Readings {
  const zero = compare.missing === 'zero';
  const known = (figure: number) => (zero && Number.isNaN(figure) ? 0 : figure);
  const others = othersOf(readings, compare, grain, reference, whole);
  // Without a period before, there is nothing that could be zero.
  const apart = compare.with === 'previous' || compare.with === 'year';
  const stands = against[compare.as];
  return {
    ...readings,
    value: floats(readings.length, (i) =>
      stands(known(readings.value[i]!), apart ? others[i]! : known(others[i]!)),
    ),
    others: new Map([...readings.others, [plainKey, readings.value]]),
  };
}

/** Under this name compared readings keep the figures as they are. */
export const plainKey = 'plain';
