import type { PartialAggregate } from '@sorvik/core/data/cube';
import { type FieldInfo, fieldOf } from '@sorvik/core/data/dataset';
import type { Dimension, Grain } from '@sorvik/core/data/dimension';
import type { Kept } from '@sorvik/core/data/kept';
import { compareKeys, type KeyValue } from '@sorvik/core/data/values';
import { rowPrinter } from '../datasets/computed';
import { quoted } from '../db/client';
import { sqlTypes } from '../imports/load';
import { placeColumn } from './row-columns';
import { askedCall, compiledRow } from './row-expressions';
import type { Question } from './source';

/** Puts a value into a statement: as SQL, it is what stands for it there. */
export type Bind = (value: unknown, type: string) => string;

/** What databases write each in its own way; `type` is that of the key, as SQL. */
export interface Dialect {
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

/** An aggregate as SQL; what expressions hold goes into `values`. */
function partialSql(
  { aggregate, field, of, where }: PartialAggregate,
  fields: FieldInfo[],
  values: unknown[],
  guarded: boolean,
): string {
  if (aggregate === 'first') return `min(${placeColumn})::float8`;
  if (aggregate === 'nonAdditive')
    return `(${askedCall(of!, fields)(rowPrinter(fields, values, guarded))})::float8`;
  const expression = (text: string) =>
    `(${compiledRow(text, fields).sql(rowPrinter(fields, values, guarded))})`;
  const taken = of !== undefined ? expression(of) : field ? quoted(field) : '*';
  const filter = where === undefined ? '' : ` FILTER (WHERE ${expression(where)})`;
  return `(${aggregate}(${taken})${filter})::float8`;
}

/**
 * The query of a question: one row per combination that occurs. Names are quoted identifiers that were found in the
 * dataset; grains come from a fixed list; of the caller's texts there are only values, which are bound. `guarded` gives
 * null where an expression has no result.
 */
export function aggregateSql(
  { keys, partials, kept, limit }: Question,
  table: string,
  fields: FieldInfo[],
  dialect: Dialect,
  guarded = false,
): { text: string; values: unknown[] } {
  const values: unknown[] = [];
  const columns = [
    ...keys.map((key, i) => `${keySql(key, fields, dialect)} AS k${i}`),
    ...partials.map((partial, i) => `${partialSql(partial, fields, values, guarded)} AS a${i}`),
  ];
  const conditions = kept.map((each) => keptSql(each, fields, values, dialect));
  const where = conditions.length ? ` WHERE ${conditions.join(' AND ')}` : '';
  const group = keys.length ? ` GROUP BY ${keys.map((_, i) => i + 1).join(', ')}` : '';
  return {
    text: `SELECT ${columns.join(', ')} FROM ${table}${where}${group} LIMIT ${limit + 1}`,
    values,
  };
}
