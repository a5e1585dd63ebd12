import type { ReadCell } from './number-format';

/** The order of day, month and year in a column of dates. */
export const dateOrders = ['ymd', 'dmy', 'mdy'] as const;
export type DateOrder = (typeof dateOrders)[number];

const months = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const word = '([A-Za-z]{3,9})\\.?';
const separator = '[-/. ]';
const shapes: Record<DateOrder, RegExp[]> = {
  ymd: [new RegExp(`^(\\d{4})${separator}(\\d{1,2})${separator}(\\d{1,2})(?=$|[T ])`)],
  dmy: [
    new RegExp(`^(\\d{1,2})${separator}(\\d{1,2})${separator}(\\d{4}|\\d{2})(?=$|[T ])`),
    new RegExp(`^(\\d{1,2})${separator}${word}${separator}(\\d{4})(?=$|[T ])`),
  ],
  mdy: [
    new RegExp(`^(\\d{1,2})${separator}(\\d{1,2})${separator}(\\d{4}|\\d{2})(?=$|[T ])`),
    new RegExp(`^${word} (\\d{1,2}),? (\\d{4})(?=$|[T ])`),
  ],
};
const timeShape =
  /^[T ]+(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,](\d{1,9}))?)? ?([AaPp][Mm])? ?(Z|[+-]\d{2}(?::?\d{2})?)?$/;

const monthNumber = (text: string) =>
  /^\d+$/.test(text) ? Number(text) : months.indexOf(text.slice(0, 3).toLowerCase()) + 1;
/** Two digits: the hundred years from 1950 to 2049. */
const fullYear = (text: string) =>
  text.length === 2 ? Number(text) + (Number(text) < 50 ? 2000 : 1900) : Number(text);
const pad = (n: number) => String(n).padStart(2, '0');
const daysIn = (year: number, month: number) => new Date(Date.UTC(year, month, 0)).getUTCDate();

/** The date at the head of a cell and what is left of the cell after it. */
function readDate(cell: string, order: DateOrder): { date: string; rest: string } | undefined {
  for (const shape of shapes[order]) {
    const match = shape.exec(cell);
    if (!match) continue;
    const [whole, a = '', b = '', c = ''] = match;
    const [y, m, d] = order === 'ymd' ? [a, b, c] : order === 'dmy' ? [c, b, a] : [c, a, b];
    const year = fullYear(y);
    const month = monthNumber(m);
    const day = Number(d);
    if (year < 1 || month < 1 || month > 12 || day < 1 || day > daysIn(year, month)) return undefined;
    return {
      date: `${String(year).padStart(4, '0')}-${pad(month)}-${pad(day)}`,
      rest: cell.slice(whole.length),
    };
  }
  return undefined;
}

/** A time of day with an offset is brought to UTC, since a field of date-times has no zone of its own. */
function withTime(date: string, rest: string): string | undefined {
  if (rest === '') return `${date} 00:00:00`;
  const match = timeShape.exec(rest);
  if (!match) return undefined;
  const [, h = '', min = '', s = '0', fraction = '', half, zone] = match;
  let hour = Number(h);
  if (half) {
    if (hour < 1 || hour > 12) return undefined;
    hour = (hour % 12) + (half.toLowerCase() === 'pm' ? 12 : 0);
  }
  if (hour > 23 || Number(min) > 59 || Number(s) > 59) return undefined;
  const time = `${pad(hour)}:${min}:${pad(Number(s))}${fraction ? `.${fraction.slice(0, 6)}` : ''}`;
  if (!zone || zone === 'Z') return `${date} ${time}`;
  const [, sign, zh, zm = '00'] = /^([+-])(\d{2}):?(\d{2})?$/.exec(zone)!;
  const shift = (sign === '-' ? 1 : -1) * (Number(zh) * 60 + Number(zm)) * 60_000;
  return new Date(Date.parse(`${date}T${pad(hour)}:${min}:${pad(Number(s))}Z`) + shift)
    .toISOString()
    .replace('T', ' ')
    .replace('.000Z', fraction ? `.${fraction.slice(0, 6)}` : '');
}

/** Every day of the calendar but the 29th of February, which takes a closer look. */
const isoDay =
  /^(?!0000)\d{4}-(?:(?:0[1-9]|1[0-2])-(?:0[1-9]|1\d|2[0-8])|(?:0[13-9]|1[0-2])-(?:29|30)|(?:0[13578]|1[02])-31)$/;

export const dateReader =
  (order: DateOrder): ReadCell =>
  (cell) => {
    if (order === 'ymd' && isoDay.test(cell)) return cell;
    const read = readDate(cell, order);
    if (!read) return undefined;
    return read.rest === '' || /^[T ]0{1,2}:00(:00(\.0+)?)?$/.test(read.rest) ? read.date : undefined;
  };

export const dateTimeReader =
  (order: DateOrder): ReadCell =>
  (cell) => {
    const read = readDate(cell, order);
    return read && withTime(read.date, read.rest);
  };

/**
 * The orders in which every cell is a date (or a date-time). Two of them at once, day-first and month-first, have to
 * be asked about; dates with full stops are day-first wherever they are written.
 */
export function dateOrdersOf(cells: readonly string[]): { orders: DateOrder[]; time: boolean } {
  const fits = (read: ReadCell) => cells.length > 0 && cells.every((cell) => read(cell) !== undefined);
  const asDate = dateOrders.filter((order) => fits(dateReader(order)));
  const orders = asDate.length ? asDate : dateOrders.filter((order) => fits(dateTimeReader(order)));
  const dotted = cells.every((cell) => /^\d{1,2}\.\d{1,2}\./.test(cell));
  return {
    orders: dotted && orders.includes('dmy') ? ['dmy'] : orders,
    time: asDate.length === 0,
  };
}
