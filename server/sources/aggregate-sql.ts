import type { PartialAggregate } from '@sorvik/core/data/cube';
import { type FieldInfo, fieldOf } from '@sorvik/core/data/dataset';
import type { Dimension, Grain } from '@sorvik/core/data/dimension';
import type { Kept } from '@sorvik/core/data/kept';
import { compareKeys, type KeyValue } from '@sorvik/core/data/values';
import { rowPrinter } from '../datasets/lay-out';
import { quoted } from '../db/client';
import { sqlTypes } from '../imports/load';
import type { From } from './restriction';
import { askedCall, compiledRow } from './row-expressions';
import type { Question } from './source';

/** Puts a value into a statement: as SQL, it is what stands for it there. */
export type Bind = (value: unknown, type: string) => string;

/** What databases write each in its own way; `type` is that of the key, as SQL. */
export interface Dialect {
  /** Where a row is among the others, as a column; where there is no such order, the same for all. */
  place: string;
  /** Columns in which keys and aggregates are already, in place of those that they are found from. */
  keyOf?(key: Dimension): string | undefined;
  partialOf?(partial: PartialAggregate): string | undefined;
  /** The first day of the period in which a day lies. */
  firstDayOf(grain: Exclude<Grain, 'day'>, day: string): string;
  /** One of several values. */
  isOneOf(key: string, values: readonly KeyValue[], type: string, bind: Bind): string;
  /** In one of several stretches that lie apart, in rising order. */
  isWithin(key: string, stretches: readonly [KeyValue, KeyValue][], type: string, bind: Bind): string;
}

/** The keys of a question as SQL. */
export const keysSql = (keys: readonly Dimension[], fields: FieldInfo[], dialect: Dialect): string[] =>
  keys.map((key) => keySql(key, fields, dialect));

function keySql({ field, grain }: Dimension, fields: FieldInfo[], dialect: Dialect): string {
  const known = dialect.keyOf?.({ field, grain });
  if (known !== undefined) return known;
  const column = quoted(field);
  if (!grain) return column;
  const day = fieldOf({ fields } as never, field)?.type === 'date' ? column : `${column}::date`;
  return grain === 'day' ? day : dialect.firstDayOf(grain, day);
}

/** Stretches in rising order, those that meet made one. */
function merged(ranges: readonly [KeyValue, KeyValue][]): [KeyValue, KeyValue][] {
  const apart: [KeyValue, KeyValue][] = [];
  for (const [from, to] of [...ranges].sort((a, b) => compareKeys(a[0], b[0]))) {
    const last = apart.at(-1);
    if (compareKeys(from, to) > 0) continue;
    if (last && compareKeys(from, last[1]) <= 0) {
      if (compareKeys(to, last[1]) > 0) last[1] = to;
    } else apart.push([from, to]);
  }
  return apart;
}

/** What is kept as SQL; the values are bound. */
function keptSql(
  { values: list, ranges = [], ...dimension }: Kept,
  fields: FieldInfo[],
  values: unknown[],
  dialect: Dialect,
): string {
  const type = dimension.grain ? 'date' : sqlTypes[fieldOf({ fields } as never, dimension.field)!.type];
  const key = keySql(dimension, fields, dialect);
  const bind: Bind = (value, as) => `$${values.push(value)}::${as}`;
  if (list) return dialect.isOneOf(key, list, type, bind);
  const apart = merged(ranges);
  return apart.length ? dialect.isWithin(key, apart, type, bind) : 'false';
}

/** An aggregate as SQL, of the type that it has; what expressions hold goes into `values`. */
function partialSql(
  partial: PartialAggregate,
  fields: FieldInfo[],
  values: unknown[],
  { place, partialOf }: Dialect,
  guarded: boolean,
): string {
  const known = partialOf?.(partial);
  if (known !== undefined) return `(${known})`;
  const { aggregate, field, of, where } = partial;
  if (aggregate === 'first') return `min(${place})`;
  if (aggregate === 'nonAdditive') return `(${askedCall(of!, fields)(rowPrinter(fields, values, guarded))})`;
  const expression = (text: string) =>
    `(${compiledRow(text, fields).sql(rowPrinter(fields, values, guarded))})`;
  const taken = of !== undefined ? expression(of) : field ? quoted(field) : '*';
  const filter = where === undefined ? '' : ` FILTER (WHERE ${expression(where)})`;
  return `(${aggregate}(${taken})${filter})`;
}

/** What is selected for a question: keys, then aggregates, each as it is or as a double. */
function selectSql(
  { keys, partials, kept }: Pick<Question, 'keys' | 'partials' | 'kept'>,
  from: From,
  fields: FieldInfo[],
  dialect: Dialect,
  { guarded, cast, values }: { guarded: boolean; cast: string; values: unknown[] },
): string {
  const columns = [
    ...keys.map((key, i) => `${keySql(key, fields, dialect)} AS k${i}`),
    ...partials.map(
      (partial, i) => `${partialSql(partial, fields, values, dialect, guarded)}${cast} AS a${i}`,
    ),
  ];
  const conditions = kept.map((each) => keptSql(each, fields, values, dialect));
  const where = conditions.length ? ` WHERE ${conditions.join(' AND ')}` : '';
  return `SELECT ${columns.join(', ')} FROM ${from(values)}${where}${groupSql(keys)}`;
}

const groupSql = (keys: readonly Dimension[]) =>
  keys.length ? ` GROUP BY ${keys.map((_, i) => i + 1).join(', ')}` : '';

/** How aggregates of parts make that of the whole. */
export const ofParts = { count: 'sum', sum: 'sum', min: 'min', max: 'max', first: 'min' } as const;

/**
 * The query of a question: one row per combination that occurs. Names are quoted identifiers that were found in the
 * dataset; grains come from a fixed list; of the caller's texts there are only values, which are bound. `guarded` gives
 * null where an expression has no result. `byDay` adds up days first, then what is coarser from them: there are fewer
 * days than rows to find the period of, and clusters that add up days where those lie cannot do it for periods.
 */
export function aggregateSql(
  question: Question,
  from: From,
  fields: FieldInfo[],
  dialect: Dialect,
  { guarded = false, byDay = false } = {},
): { text: string; values: unknown[] } {
  const values: unknown[] = [];
  const { keys, partials, kept, limit } = question;
  const most = ` LIMIT ${limit + 1}`;
  if (!byDay) {
    const text = selectSql(question, from, fields, dialect, { guarded, cast: '::float8', values });
    return { text: `${text}${most}`, values };
  }
  const days = keys.map(({ field, grain }) => (grain ? { field, grain: 'day' as const } : { field }));
  const inner = selectSql({ keys: days, partials, kept }, from, fields, dialect, {
    guarded,
    cast: '',
    values,
  });
  const columns = [
    ...keys.map(({ grain }, i) => (grain && grain !== 'day' ? dialect.firstDayOf(grain, `k${i}`) : `k${i}`)),
    ...partials.map(({ aggregate }, i) => `(${ofParts[aggregate as keyof typeof ofParts]}(a${i}))::float8`),
  ];
  return { text: `SELECT ${columns.join(', ')} FROM (${inner}) AS days${groupSql(keys)}${most}`, values };
}

/**
 * What a question's figures can be added up from: columns `r0` .. of its keys and `p0` .. of its aggregates, of the type that
 * they have, over the rows of which `where` is true.
 */
export function rollUpSql(
  { keys, partials }: Pick<Question, 'keys' | 'partials'>,
  table: string,
  fields: FieldInfo[],
  dialect: Dialect,
  where: string,
): { text: string; values: unknown[] } {
  const values: unknown[] = [];
  const columns = [
    ...keys.map((key, i) => `${keySql(key, fields, dialect)} AS r${i}`),
    ...partials.map((partial, i) => `${partialSql(partial, fields, values, dialect, false)} AS p${i}`),
  ];
  return { text: `SELECT ${columns.join(', ')} FROM ${table} WHERE ${where}${groupSql(keys)}`, values };
}

/** How many days the dates of a field can be. */
function daysOf({ profile }: FieldInfo): number {
  const { min, max, distinct = Number.POSITIVE_INFINITY } = profile ?? {};
  const span = (Date.parse(String(max).slice(0, 10)) - Date.parse(String(min).slice(0, 10))) / 86_400_000 + 1;
  return Number.isNaN(span) ? distinct : Math.min(distinct, span);
}

/** A day has at least so many rows, for days to be worth adding up first. */
const worthwhile = 4;

/** Whether periods are sooner added up from days than from so many rows. */
export function isSoonerByDay({ keys, partials }: Question, fields: FieldInfo[], rows: number): boolean {
  if (!keys.some(({ grain }) => grain && grain !== 'day')) return false;
  if (partials.some(({ aggregate }) => aggregate === 'nonAdditive')) return false;
  const groups = keys.map(({ field, grain }) => {
    const found = fieldOf({ fields } as never, field)!;
    return grain ? daysOf(found) : (found.profile?.distinct ?? Number.POSITIVE_INFINITY);
  });
  return groups.reduce((product, each) => product * Math.max(1, each), 1) * worthwhile <= rows;
}
