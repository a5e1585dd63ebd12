import { utcDay, utcMonday, utcMonth, utcYear } from 'd3-time';
import type { Grain } from './dimension';

const epoch = new Date(0);
const firstMonday = utcMonday.floor(epoch);
const toText = (date: Date) => date.toISOString().slice(0, 10);
const toDate = (text: string) => new Date(text.length > 10 ? `${text}Z` : text);

const ordinals: Record<Grain, (date: Date) => number> = {
  year: (date) => utcYear.count(epoch, date),
  quarter: (date) => Math.floor(utcMonth.count(epoch, date) / 3),
  month: (date) => utcMonth.count(epoch, date),
  week: (date) => utcMonday.count(firstMonday, date),
  day: (date) => utcDay.count(epoch, date),
};
const starts: Record<Grain, (ordinal: number) => Date> = {
  year: (ordinal) => utcYear.offset(epoch, ordinal),
  quarter: (ordinal) => utcMonth.offset(epoch, ordinal * 3),
  month: (ordinal) => utcMonth.offset(epoch, ordinal),
  week: (ordinal) => utcMonday.offset(firstMonday, ordinal),
  day: (ordinal) => utcDay.offset(epoch, ordinal),
};

const leapYear = '(?:\\d\\d(?:0[48]|[2468][048]|[13579][26])|(?:[02468][048]|[13579][26])00)';
const day = `(?:\\d{4}-(?:(?:0[13578]|1[02])-(?:0[1-9]|[12]\\d|3[01])|(?:0[469]|11)-(?:0[1-9]|[12]\\d|30)|02-(?:0[1-9]|1\\d|2[0-8]))|${leapYear}-02-29)`;
/** Days that the calendar has, `YYYY-MM-DD`, with a time of day or without. */
export const dateText = new RegExp(`^${day}(?:T(?:[01]\\d|2[0-3]):[0-5]\\d:[0-5]\\d(?:\\.\\d+)?)?$`);

/** Whether a text is a date or date-time that exists. */
export const isDateText = (text: unknown): text is string => typeof text === 'string' && dateText.test(text);

/** The number of the period a date lies in: neighbours differ by one. NaN where the text is no date. */
export const periodOrdinal = (date: string, grain: Grain): number => ordinals[grain](toDate(date));

/** The first day of the period of a number, `YYYY-MM-DD`. */
export const periodAt = (ordinal: number, grain: Grain): string => toText(starts[grain](ordinal));

/** The first and the last day of the period that holds a date. */
export const periodStart = (date: string, grain: Grain) => periodAt(periodOrdinal(date, grain), grain);
export const periodEnd = (date: string, grain: Grain) =>
  toText(utcDay.offset(starts[grain](periodOrdinal(date, grain) + 1), -1));

/** A day some days later, or earlier. */
export const addDays = (date: string, days: number) => periodAt(periodOrdinal(date, 'day') + days, 'day');
