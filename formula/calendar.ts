import type { IntervalUnit } from './expression';

/** A date or date-time as milliseconds; their texts have no zone. */
export const instantOf = (text: string): number => Date.parse(text.length > 10 ? `${text}Z` : text);

/** Millionths of a second of a date-time that are less than a thousandth: an instant has none of those. */
export const microsOf = (text: string): number =>
  text.length > 23 ? Number(text.slice(23, 26).padEnd(3, '0')) : 0;

/** The first instant of a day; also of years below 100, which are no years of the last century. */
const dayStart = (year: number, month: number, day: number): number =>
  new Date(0).setUTCFullYear(year, month, day);

/** The text of an instant: a date, or a date-time with as many decimals of its seconds as it has, up to six. */
export function textOfInstant(instant: number, type: 'date' | 'datetime', micros = 0): string | null {
  const date = new Date(instant);
  // Years of more than four digits cannot be written as fields have them.
  if (Number.isNaN(instant) || date.getUTCFullYear() > 9999 || date.getUTCFullYear() < 1) return null;
  const text = date.toISOString();
  if (type === 'date') return text.slice(0, 10);
  return `${text.slice(0, 23)}${String(micros).padStart(3, '0')}`.replace(/\.?0+$/, '');
}

const lengths: Partial<Record<IntervalUnit, number>> = {
  DAY: 86_400_000,
  HOUR: 3_600_000,
  MINUTE: 60_000,
  SECOND: 1000,
};

/** An instant some units later; a month that has not the day ends with its last. */
export function addUnits(instant: number, count: number, unit: IntervalUnit): number {
  const length = lengths[unit];
  if (length) return instant + count * length;
  const date = new Date(instant);
  const day = date.getUTCDate();
  date.setUTCDate(1);
  date.setUTCMonth(date.getUTCMonth() + count * (unit === 'YEAR' ? 12 : 1));
  const last = new Date(dayStart(date.getUTCFullYear(), date.getUTCMonth() + 1, 0)).getUTCDate();
  date.setUTCDate(Math.min(day, last));
  return date.getTime();
}

/** The Monday of the week, as ISO 8601 has it. */
const mondayOf = (date: Date) => {
  const day = (date.getUTCDay() + 6) % 7;
  return dayStart(date.getUTCFullYear(), date.getUTCMonth(), date.getUTCDate() - day);
};

/** The parts that EXTRACT takes out of a date; of seconds with the millionths that an instant has not. */
export const dateParts: Record<string, (date: Date, micros: number) => number> = {
  YEAR: (date) => date.getUTCFullYear(),
  QUARTER: (date) => Math.floor(date.getUTCMonth() / 3) + 1,
  MONTH: (date) => date.getUTCMonth() + 1,
  WEEK: (date) => {
    const thursday = new Date(mondayOf(date) + 3 * 86_400_000);
    return Math.floor((thursday.getTime() - dayStart(thursday.getUTCFullYear(), 0, 1)) / 604_800_000) + 1;
  },
  DAY: (date) => date.getUTCDate(),
  DOW: (date) => date.getUTCDay(),
  ISODOW: (date) => ((date.getUTCDay() + 6) % 7) + 1,
  DOY: (date) => Math.floor((date.getTime() - dayStart(date.getUTCFullYear(), 0, 1)) / 86_400_000) + 1,
  HOUR: (date) => date.getUTCHours(),
  MINUTE: (date) => date.getUTCMinutes(),
  SECOND: (date, micros) =>
    (date.getUTCSeconds() * 1_000_000 + date.getUTCMilliseconds() * 1000 + micros) / 1_000_000,
};

/** What DATE_TRUNC cuts dates to. */
export const truncations: Record<string, (date: Date) => number> = {
  year: (date) => dayStart(date.getUTCFullYear(), 0, 1),
  quarter: (date) => dayStart(date.getUTCFullYear(), Math.floor(date.getUTCMonth() / 3) * 3, 1),
  month: (date) => dayStart(date.getUTCFullYear(), date.getUTCMonth(), 1),
  week: mondayOf,
  day: (date) => dayStart(date.getUTCFullYear(), date.getUTCMonth(), date.getUTCDate()),
  hour: (date) => Math.floor(date.getTime() / 3_600_000) * 3_600_000,
  minute: (date) => Math.floor(date.getTime() / 60_000) * 60_000,
};
