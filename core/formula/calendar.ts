import type { IntervalUnit } from './expression';

/** A date or date-time as milliseconds; their texts have no zone. */
export const instantOf = (text: string): number => Date.parse(text.length > 10 ? `${text}Z` : text);

/** The text of an instant: a date, or a date-time with milliseconds only where there are some. */
export function textOfInstant(instant: number, type: 'date' | 'datetime'): string | null {
  const date = new Date(instant);
  // Years of more than four digits cannot be written as fields have them.
  if (Number.isNaN(instant) || date.getUTCFullYear() > 9999 || date.getUTCFullYear() < 1) return null;
  const text = date.toISOString();
  return type === 'date' ? text.slice(0, 10) : text.slice(0, 23).replace(/\.000$/, '');
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
  const last = new Date(Date.UTC(date.getUTCFullYear(), date.getUTCMonth() + 1, 0)).getUTCDate();
  date.setUTCDate(Math.min(day, last));
  return date.getTime();
}

/** The Monday of the week, as ISO 8601 has it. */
const mondayOf = (date: Date) => {
  const day = (date.getUTCDay() + 6) % 7;
  return Date.UTC(date.getUTCFullYear(), date.getUTCMonth(), date.getUTCDate() - day);
};

/** The parts that EXTRACT takes out of a date. */
export const dateParts: Record<string, (date: Date) => number> = {
  YEAR: (date) => date.getUTCFullYear(),
  QUARTER: (date) => Math.floor(date.getUTCMonth() / 3) + 1,
  MONTH: (date) => date.getUTCMonth() + 1,
  WEEK: (date) => {
    const thursday = new Date(mondayOf(date) + 3 * 86_400_000);
    return Math.floor((thursday.getTime() - Date.UTC(thursday.getUTCFullYear(), 0, 1)) / 604_800_000) + 1;
  },
  DAY: (date) => date.getUTCDate(),
  DOW: (date) => date.getUTCDay(),
  ISODOW: (date) => ((date.getUTCDay() + 6) % 7) + 1,
  DOY: (date) => Math.floor((date.getTime() - Date.UTC(date.getUTCFullYear(), 0, 1)) / 86_400_000) + 1,
  HOUR: (date) => date.getUTCHours(),
  MINUTE: (date) => date.getUTCMinutes(),
  SECOND: (date) => date.getUTCSeconds() + date.getUTCMilliseconds() / 1000,
};

/** What DATE_TRUNC cuts dates to. */
export const truncations: Record<string, (date: Date) => number> = {
  year: (date) => Date.UTC(date.getUTCFullYear(), 0, 1),
  quarter: (date) => Date.UTC(date.getUTCFullYear(), Math.floor(date.getUTCMonth() / 3) * 3, 1),
  month: (date) => Date.UTC(date.getUTCFullYear(), date.getUTCMonth(), 1),
  week: mondayOf,
  day: (date) => Date.UTC(date.getUTCFullYear(), date.getUTCMonth(), date.getUTCDate()),
  hour: (date) => Math.floor(date.getTime() / 3_600_000) * 3_600_000,
  minute: (date) => Math.floor(date.getTime() / 60_000) * 60_000,
};
