import {
  type CubeRequest,
  type PartialAggregate,
  partialAggregates,
  partialFromKey,
} from '@sorvik/core/data/cube';
import { type FieldInfo, fieldOf } from '@sorvik/core/data/dataset';
import { type Dimension, type Grain, grains } from '@sorvik/core/data/dimension';
import type { Kept } from '@sorvik/core/data/kept';
import { readRow, rowScope } from '@sorvik/core/data/row-formula';
import { compareKeys, isNumeric, isTemporal, type KeyValue } from '@sorvik/core/data/values';
import { compileAggregate } from '@sorvik/formula/aggregate-sql';
import { type Compiled, FormulaError, type SqlPrinter, typeName } from '@sorvik/formula/compiled';
import type { ValueType } from '@sorvik/formula/expression';
import { fullEngine } from '@sorvik/formula/full-engine';
import { rowPrinter } from '../datasets/computed';
import { quoted } from '../db/client';
import { invalid } from '../http/problem';
import { sqlTypes } from '../imports/load';
import { tell } from '../tell';

type Fields = { fields: FieldInfo[] };

/** The nearest of the names, for a suggestion beside one that does not exist; empty where there are none. */
function nearest(name: string, names: string[]): string {
  const shared = (other: string) =>
    [...new Set(name)].filter((letter) => other.includes(letter)).length -
    Math.abs(other.length - name.length);
  const best = [...names].sort((a, b) => shared(b) - shared(a))[0];
  return best ?? '';
}

function needField(dataset: Fields, key: string, pointer: string): FieldInfo {
  const field = fieldOf(dataset as never, key);
  if (!field) {
    const meant = nearest(
      key,
      dataset.fields.map((each) => each.key),
    );
    throw invalid([
      {
        pointer,
        message: tell('plan.noField', { key, known: meant ? 'yes' : 'no', meant }),
      },
    ]);
  }
  return field;
}

/** `date.month` -> a dimension that the dataset can really make. */
export function readKey(text: string, dataset: Fields): Dimension {
  const [key = '', grain] = text.split('.');
  const field = needField(dataset, key, '/key');
  if (grain === undefined) return { field: key };
  if (!grains.includes(grain as Grain))
    throw invalid([
      { pointer: '/key', message: tell('plan.isNoDateUnit', { grain, units: grains.join(', ') }) },
    ]);
  if (!isTemporal(field.type))
    throw invalid([{ pointer: '/key', message: tell('plan.isNotADate', { key, grain }) }]);
  return { field: key, grain: grain as Grain };
}

const isList = (value: unknown): value is unknown[] => Array.isArray(value) && value.length <= mostKept;
const isHeld = (value: unknown): value is KeyValue =>
  typeof value === 'string' || typeof value === 'boolean' || Number.isFinite(value);
const mostKept = 10_000;

/** `{"field":"route","values":["Quel"]}` -> which rows are kept. */
export function readKept(text: string, dataset: Fields): Kept {
  const wrong = (message: string) => invalid([{ pointer: '/keep', message }]);
  let given: Record<string, unknown>;
  try {
    given = JSON.parse(text) ?? {};
  } catch {
    throw wrong(tell('plan.itIsNoJson'));
  }
  const { field, grain, values, ranges } = given;
  if (typeof field !== 'string' || (grain !== undefined && typeof grain !== 'string'))
    throw wrong(tell('plan.fieldAndGrainName'));
  const dimension = readKey(grain === undefined ? field : `${field}.${grain}`, dataset);
  if (isList(values) && values.every(isHeld) && ranges === undefined) return { ...dimension, values };
  const { type } = fieldOf(dataset as never, dimension.field)!;
  if (isList(ranges) && values === undefined && (isNumeric(type) || isTemporal(type))) {
    const pairs = ranges.filter(
      (range): range is [KeyValue, KeyValue] => isList(range) && range.length === 2 && range.every(isHeld),
    );
    if (pairs.length === ranges.length) return { ...dimension, ranges: pairs };
  }
  throw wrong(tell('plan.valuesAreAList'));
}

/** What is kept as SQL; the values are bound. */
function keptSql(
  { values: list, ranges = [], ...dimension }: Kept,
  fields: FieldInfo[],
  values: unknown[],
): string {
  const type = dimension.grain ? 'date' : sqlTypes[fieldOf({ fields } as never, dimension.field)!.type];
  const key = keySql(dimension);
  if (list) return `${key} = ANY ($${values.push(list)}::${type}[])`;
  if (!ranges.length) return 'false';
  const apart = merged(ranges);
  const from = `$${values.push(apart.map(([first]) => first))}::${type}[]`;
  const to = `$${values.push(apart.map(([, last]) => last))}::${type}[]`;
  // The stretch that begins last before a value is the only one that it can lie in: found by halving, however many.
  return `(${key} <= (${to})[nullif(width_bucket(${key}, ${from}), 0)])`;
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

/** `sum.passengers` -> a partial aggregate that the types of its fields allow. */
export function readPartial(text: string, dataset: Fields): PartialAggregate {
  const partial = partialFromKey(text);
  const wrong = (message: string) => invalid([{ pointer: '/aggregate', message }]);
  if (!partial)
    throw wrong(
      tell('plan.isNoAggregateThere', { text: text.slice(0, 80), known: partialAggregates.join(', ') }),
    );
  const { aggregate, field: key, of, where } = partial;
  if (aggregate === 'first') return { aggregate };
  if (aggregate === 'nonAdditive') {
    if (of === undefined || key !== undefined || where !== undefined) throw wrong(tell('plan.whatIsAskedAs'));
    askedCall(of, dataset.fields);
    return partial;
  }
  if (key !== undefined && of !== undefined) throw wrong(tell('plan.itTakesAField'));
  if (where !== undefined) compiledRow(where, dataset.fields, 'boolean');
  if (of !== undefined) {
    compiledRow(of, dataset.fields, aggregate === 'count' ? undefined : 'number');
    return partial;
  }
  if (key === undefined) {
    if (aggregate === 'count') return partial;
    throw wrong(tell('plan.needsAFieldAs', { aggregate }));
  }
  const field = needField(dataset, key, '/aggregate');
  if (aggregate !== 'count' && !isNumeric(field.type))
    throw wrong(tell('plan.holdsSNeedsNumbers', { key, type: field.type, aggregate }));
  return partial;
}

/** A call of an aggregate that is asked for as a whole, checked. */
function askedCall(text: string, fields: FieldInfo[]): (printer: SqlPrinter) => string {
  const parsed = fullEngine.parse(text);
  const wrong = (message: string) => invalid([{ pointer: '/aggregate', message: `${text}: ${message}` }]);
  if (!parsed.ok) throw wrong(parsed.problem.message);
  if (parsed.expression.kind !== 'call') throw wrong(tell('plan.thisIsNoAggregate'));
  try {
    return compileAggregate(parsed.expression, rowScope(fields));
  } catch (error) {
    if (error instanceof FormulaError) throw wrong(error.message);
    throw error;
  }
}

/** An expression of the fields of a row, checked; of one type where one is wanted. */
function compiledRow(text: string, fields: FieldInfo[], type?: ValueType): Compiled {
  const read = readRow(text, fields, fullEngine);
  if (!read.ok) throw invalid([{ pointer: '/aggregate', message: `${text}: ${read.problem.message}` }]);
  if (type && read.compiled.type !== type)
    throw invalid([{ pointer: '/aggregate', message: tell('plan.hasToBe', { text, type: typeName(type) }) }]);
  return read.compiled;
}

const keySql = ({ field, grain }: Dimension) =>
  grain ? `date_trunc('${grain}', ${quoted(field)})::date` : quoted(field);

/** An aggregate as SQL; what expressions hold goes into `values`. */
function partialSql(
  { aggregate, field, of, where }: PartialAggregate,
  fields: FieldInfo[],
  values: unknown[],
  guarded: boolean,
): string {
  if (aggregate === 'first') return 'min(ctid)';
  if (aggregate === 'nonAdditive')
    return `(${askedCall(of!, fields)(rowPrinter(fields, values, guarded))})::float8`;
  const expression = (text: string) =>
    `(${compiledRow(text, fields).sql(rowPrinter(fields, values, guarded))})`;
  const taken = of !== undefined ? expression(of) : field ? quoted(field) : '*';
  const filter = where === undefined ? '' : ` FILTER (WHERE ${expression(where)})`;
  return `(${aggregate}(${taken})${filter})::float8`;
}

/** Rows lie in a table in the order of the file, so the place of a row on disk is its place in the data. */
const placeSql = (name: string) => `((${name}::text::point)[0] * 65536 + (${name}::text::point)[1])`;

/**
 * The query of a cube: one row per combination that occurs, at most `limit` of them. Names are quoted identifiers
 * that were found in the dataset; grains come from a fixed list; of the caller's texts there are only values, which
 * are bound.
 */
export function cubeSql(
  request: CubeRequest,
  table: string,
  limit: number,
  fields: FieldInfo[],
  kept: readonly Kept[] = [],
  guarded = false,
): { text: string; values: unknown[] } {
  const values: unknown[] = [];
  const keys = request.keys.map((key, i) => `${keySql(key)} AS k${i}`);
  const partials = request.partials.map(
    (partial, i) => `${partialSql(partial, fields, values, guarded)} AS a${i}`,
  );
  const group = request.keys.map((_, i) => i + 1).join(', ');
  const conditions = kept.map((each) => keptSql(each, fields, values));
  const where = conditions.length ? ` WHERE ${conditions.join(' AND ')}` : '';
  const inner = `SELECT ${[...keys, ...partials].join(', ')} FROM ${table}${where}${group ? ` GROUP BY ${group}` : ''} LIMIT ${limit}`;
  const outer = [
    ...request.keys.map((_, i) => `k${i}`),
    ...request.partials.map((partial, i) =>
      partial.aggregate === 'first' ? `${placeSql(`a${i}`)} AS a${i}` : `a${i}`,
    ),
  ];
  return { text: `SELECT ${outer.join(', ')} FROM (${inner}) AS cube`, values };
}
