import type { FieldType } from '@sorvik/core/data/values';
import { type DateOrder, dateOrdersOf, dateReader, dateTimeReader } from './date-format';
import {
  decimalReader,
  integerReader,
  type NumberFormat,
  numberFormatsOf,
  type ReadCell,
  readingsOfNumbers,
} from './number-format';

/** How one column of a file becomes a field. */
export interface ColumnPlan {
  /** The name in the file's head, made unique. */
  name: string;
  type: FieldType;
  number: NumberFormat;
  date: DateOrder;
  /** True when day-first and month-first both fit: somebody has to say which it is. */
  ambiguousDate: boolean;
  /** Every way of reading its numbers, where they differ: somebody has to say which it is. */
  ambiguousNumbers: NumberFormat[];
  /** A few of its cells, for the question. */
  examples: string[];
  /** It stays of this type: rows that do not fit are set aside, however many. */
  fixed?: true;
}

const truths = new Map(
  ['true', 'yes', 'y', 't']
    .map((word): [string, string] => [word, 't'])
    .concat(['false', 'no', 'n', 'f'].map((word) => [word, 'f'])),
);
const booleanReader: ReadCell = (cell) => truths.get(cell.toLowerCase());

const readers: Record<FieldType, (plan: ColumnPlan) => ReadCell> = {
  integer: (plan) => integerReader(plan.number),
  decimal: (plan) => decimalReader(plan.number),
  boolean: () => booleanReader,
  date: (plan) => dateReader(plan.date),
  datetime: (plan) => dateTimeReader(plan.date),
  text: () => (cell) => cell,
};
export const cellReader = (plan: ColumnPlan): ReadCell => readers[plan.type](plan);

export const plainNumber: NumberFormat = { decimal: '.', group: '' };

interface Planned {
  plan: ColumnPlan;
  /** Every way of writing numbers that fits all cells. */
  numbers: NumberFormat[];
}

/** The first type, from the narrowest on, that all cells fit. */
function planExactly(name: string, cells: readonly string[]): Planned {
  const base = {
    name,
    number: plainNumber,
    date: 'ymd' as DateOrder,
    ambiguousDate: false,
    ambiguousNumbers: [],
    examples: [...new Set(cells)].slice(0, 3),
  };
  const text: Planned = { plan: { ...base, type: 'text' }, numbers: [] };
  if (!cells.length) return text;
  if (cells.every((cell) => booleanReader(cell) !== undefined))
    return { plan: { ...base, type: 'boolean' }, numbers: [] };
  const numbers = numberFormatsOf(cells);
  const first = numbers[0];
  if (first)
    return {
      plan: { ...base, type: first.integer ? 'integer' : 'decimal', number: first.format },
      numbers: numbers.map((n) => n.format),
    };
  const { orders, time } = dateOrdersOf(cells);
  if (!orders.length) return text;
  return {
    plan: { ...base, type: time ? 'datetime' : 'date', date: orders[0]!, ambiguousDate: orders.length > 1 },
    numbers: [],
  };
}

const looksLike: ((cell: string) => boolean)[] = [
  (cell) => booleanReader(cell) !== undefined,
  (cell) => numberFormatsOf([cell]).length > 0,
  (cell) => dateOrdersOf([cell]).orders.length > 0,
];
/** Of this many cells or more, one in twenty may be a slip: its row is set aside rather than the column made text. */
const enough = 20;
const tolerated = 1 / 20;

/** The type that all cells fit, or nearly all; text where there is none. */
function planColumn(name: string, cells: readonly string[]): Planned {
  const exact = planExactly(name, cells);
  if (exact.plan.type !== 'text' || cells.length < enough) return exact;
  for (const fits of looksLike) {
    const kept = cells.filter(fits);
    if (kept.length < cells.length * (1 - tolerated)) continue;
    const planned = planExactly(name, kept);
    if (planned.plan.type !== 'text') return planned;
  }
  return exact;
}

const isMarked = (format: NumberFormat) => format.group !== '' || format.decimal === ',';
const isNumeric = ({ type }: ColumnPlan) => type === 'decimal' || type === 'integer';

/** A column of numbers by one of the formats that fit it. */
function withFormat(plan: ColumnPlan, number: NumberFormat, cells: readonly string[]): ColumnPlan {
  const isWhole = integerReader(number);
  const isNumber = decimalReader(number);
  const whole = cells.every((cell) => isWhole(cell) !== undefined || isNumber(cell) === undefined);
  return { ...plan, number, type: whole ? 'integer' : 'decimal', ambiguousNumbers: [] };
}

/**
 * Plans every column from sample cells (empty ones left out). Where all cells of a column fit two readings, as "1.500"
 * does, it is to be asked about: neither other columns nor the separator say how this one is written. They only decide
 * between formats that read alike what is there.
 */
export function planColumns(
  names: readonly string[],
  samples: readonly string[][],
  separator: string,
): ColumnPlan[] {
  const planned = names.map((name, i) => planColumn(name, samples[i]!));
  const decided = planned.find(
    ({ plan, numbers }, i) =>
      isNumeric(plan) &&
      numbers.every((format) => format.decimal === numbers[0]!.decimal) &&
      (isMarked(numbers[0]!) || samples[i]!.some((cell) => /\d\.\d/.test(cell))),
  );
  const decimal = decided?.numbers[0]?.decimal ?? (separator === ';' ? ',' : '.');
  return planned.map(({ plan, numbers }, i) => {
    const chosen =
      numbers.find((format) => format.decimal === decimal && format.group !== '') ??
      numbers.find((format) => format.decimal === decimal) ??
      numbers[0];
    if (!chosen) return plan;
    const cells = samples[i]!.filter((cell) => decimalReader(chosen)(cell) !== undefined);
    // What the file's other columns make likely is offered first.
    const readings = readingsOfNumbers([chosen, ...numbers], cells);
    if (readings.length < 2) return withFormat(plan, chosen, samples[i]!);
    // The cells that are shown are those that the readings differ in.
    const told = cells.filter((_, c) => readings.some(({ values }) => values[c] !== readings[0]!.values[c]));
    return {
      ...withFormat(plan, chosen, samples[i]!),
      ambiguousNumbers: readings.map(({ format }) => format),
      examples: [...new Set(told)].slice(0, 3),
    };
  });
}

/** The plan once somebody has said how its numbers are written: a decimal among the cells to come widens it. */
export const asRead = (plan: ColumnPlan, number: NumberFormat): ColumnPlan =>
  withFormat(plan, number, plan.examples);

/** A wider type that also takes this cell, or text, which takes any. */
export function widened(plan: ColumnPlan, cell: string): ColumnPlan {
  if (plan.type === 'integer' && decimalReader(plan.number)(cell) !== undefined)
    return { ...plan, type: 'decimal' };
  if (plan.type === 'date' && dateTimeReader(plan.date)(cell) !== undefined)
    return { ...plan, type: 'datetime' };
  return { ...plan, type: 'text' };
}
