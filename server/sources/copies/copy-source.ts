import type { DuckDBConnection } from '@duckdb/node-api';
import type { FieldProfile } from '@sorvik/core/data/dataset';
import { type Dimension, grains } from '@sorvik/core/data/dimension';
import { type FieldType, isTemporal, type KeyValue } from '@sorvik/core/data/values';
import type { RecordBatch } from 'apache-arrow';
import type { Field } from '../../datasets/store';
import { longestQuestion, quoted } from '../../db/client';
import { aggregateSql, type Dialect, keysSql } from '../aggregate-sql';
import { type CodedKeys, coded, cubeBatch } from '../arrow';
import { keyTypesOf } from '../key-types';
import { allowedRows, type From, type Restriction, scopeOf } from '../restriction';
import { pageOfRows, placeColumn, profileOf } from '../row-columns';
import type { Bins, CountedValue, Question, Source } from '../source';
import type { Engine } from './engine';
import { answersExactly } from './exact';
import { columnTypes } from './make-copy';
import type { Rolled } from './roll-ups';

/** So few stretches are looked at one by one; more are joined with. */
const fewStretches = 40;

/** Counting back from a day is three times as fast as cutting it off. */
const firstDays = {
  week: (day: string) => `(${day} - (isodow(${day})::int - 1))`,
  month: (day: string) => `(${day} - (day(${day})::int - 1))`,
  quarter: (day: string) => `make_date(year(${day}), quarter(${day}) * 3 - 2, 1)`,
  year: (day: string) => `(${day} - (dayofyear(${day})::int - 1))`,
};

/** The SQL of copies. */
export const copyDialect: Dialect = {
  place: placeColumn,
  firstDayOf: (grain, day) => firstDays[grain](day),
  isOneOf: (key, values, type, bind) => `${key} IN (SELECT unnest(${bind(values, `${type}[]`)}))`,
  isWithin(key, stretches, type, bind) {
    if (stretches.length <= fewStretches)
      return `(${stretches.map(([from, to]) => `${key} BETWEEN ${bind(from, type)} AND ${bind(to, type)}`).join(' OR ')})`;
    const [from, to] = [0, 1].map((end) =>
      bind(
        stretches.map((each) => each[end]),
        `${type}[]`,
      ),
    );
    return `EXISTS (SELECT 1 FROM (SELECT unnest(${from}) AS low, unnest(${to}) AS high) AS kept WHERE ${key} BETWEEN kept.low AND kept.high)`;
  },
};

/** The answer has a figure that PostgreSQL would not have: it is asked there. */
export class NotExact extends Error {}

const textOf = (column: string, type: FieldType): string =>
  type === 'datetime'
    ? `replace((${column})::varchar, ' ', 'T')`
    : type === 'date'
      ? `(${column})::varchar`
      : type === 'integer'
        ? `(${column})::double`
        : column;

/** Columns of numbers; NaN is null. */
async function numbers(connection: DuckDBConnection, text: string, count: number): Promise<Float64Array[]> {
  const result = await connection.stream(text);
  const parts: Float64Array[][] = Array.from({ length: count }, () => []);
  for (let chunk = await result.fetchChunk(); chunk?.rowCount; chunk = await result.fetchChunk())
    for (let c = 0; c < count; c++) {
      const vector = chunk.getColumnVector(c);
      parts[c]!.push(
        Float64Array.from(
          { length: chunk.rowCount },
          (_, i) => (vector.getItem(i) as number | null) ?? Number.NaN,
        ),
      );
    }
  return parts.map((part) => {
    const all = new Float64Array(part.reduce((length, { length: more }) => length + more, 0));
    let at = 0;
    for (const each of part) {
      all.set(each, at);
      at += each.length;
    }
    return all;
  });
}

const dayOf = (days: number) => new Date(days * 86_400_000).toISOString().slice(0, 10);
const withNulls = (column: Float64Array) =>
  Array.from(column, (value) => (Number.isNaN(value) ? null : value));

/**
 * How the keys of an answer come over as numbers, since to make a text of each of them would take longer than the answer
 * itself: figures as they are, days as their number, and of others which one it is of those that there are.
 */
async function codedKeys(connection: DuckDBConnection, types: readonly FieldType[]) {
  const keys: ((column: Float64Array) => CodedKeys)[] = [];
  const selected: string[] = [];
  const joins: string[] = [];
  for (const [k, type] of types.entries()) {
    if (type === 'integer' || type === 'decimal') {
      selected.push(`k${k}::double`);
      keys.push((column) => coded(withNulls(column)));
    } else if (type === 'date') {
      selected.push(`(k${k} - DATE '1970-01-01')::double`);
      keys.push((column) => {
        const { codes, values } = coded(withNulls(column));
        return { codes, values: values.map((days) => dayOf(days as number)) };
      });
    } else {
      await connection.run(
        `CREATE OR REPLACE TEMP TABLE values_${k} AS SELECT value, row_number() OVER () - 1 AS code FROM (SELECT DISTINCT k${k} AS value FROM answer WHERE k${k} IS NOT NULL) AS found`,
      );
      const found = await connection.runAndReadAll(
        `SELECT ${textOf('value', type)} FROM values_${k} ORDER BY code`,
      );
      const values = (found.getColumns()[0] ?? []) as unknown[];
      selected.push(`values_${k}.code::double`);
      joins.push(`LEFT JOIN values_${k} ON values_${k}.value = k${k}`);
      keys.push((column) => ({
        codes: Int32Array.from(column, (code) => (Number.isNaN(code) ? -1 : code)),
        values,
      }));
    }
  }
  return { keys, selected, joins };
}

/** Rows in a column copy. */
export class CopySource implements Source {
  readonly lasting = true;

  constructor(
    private readonly engine: Engine,
    /** The table in the column store, as SQL. */
    readonly table: string,
    private readonly copied: { version: number; rows: number; places: number; fields: readonly Field[] },
    /** Which rows are for whoever asks; null for all. */
    private readonly restriction: Restriction | null,
    /** Puts texts into their natural order, which only PostgreSQL knows. */
    private readonly inNaturalOrder: (texts: string[]) => Promise<string[]>,
    /** What answers a question sooner than all rows do. */
    private readonly rolled: (question: Question, patient?: boolean) => Promise<Rolled | null> = async () =>
      null,
  ) {
    this.scope = scopeOf(restriction, copied.fields);
    this.allowed = allowedRows(table, restriction, copied.fields, false);
  }

  readonly scope: string;
  /** What of its table is for whoever asks. */
  private readonly allowed: From;

  get version(): number {
    return this.copied.version;
  }

  answers(question: Question): boolean {
    return answersExactly(question, this.copied.fields);
  }

  private async ask(text: string, values: readonly unknown[] = [], signal?: AbortSignal) {
    const answer = await this.engine.ask(text, values, signal);
    const columns = answer.getColumns() as unknown[][];
    // Of no rows it makes no columns.
    return columns.length ? columns : answer.columnNames().map((): unknown[] => []);
  }

  async aggregate(question: Question, signal?: AbortSignal): Promise<RecordBatch> {
    // What is added up already is so over all rows.
    const rolled = this.restriction ? null : await this.rolled(question);
    if (rolled)
      try {
        return await this.aggregateOf(
          question,
          { from: () => rolled.table, dialect: rolled.dialect },
          signal,
        );
      } catch (error) {
        if (signal?.aborted || error instanceof NotExact) throw error;
        rolled.failed();
      }
    return this.aggregateOf(question, { from: this.allowed, dialect: copyDialect }, signal);
  }

  private aggregateOf(
    question: Question,
    { from, dialect }: { from: From; dialect: Dialect },
    signal?: AbortSignal,
  ): Promise<RecordBatch> {
    const types = keyTypesOf(question, this.copied.fields);
    const { text, values } = aggregateSql(question, from, [...this.copied.fields], dialect);
    return this.engine.on(
      async (connection) => {
        await this.engine.run(connection, `CREATE OR REPLACE TEMP TABLE answer AS ${text}`, values);
        const { keys, selected, joins } = await codedKeys(connection, types);
        const partials = question.partials.map((_, i) => `a${i}`);
        const columns = await numbers(
          connection,
          `SELECT ${[...selected, ...partials].join(', ')} FROM answer ${joins.join(' ')}`,
          types.length + partials.length,
        );
        await connection.run('DROP TABLE answer');
        const figures = columns.slice(types.length);
        if (figures.some((column) => column.some((value) => Math.abs(value) === Number.POSITIVE_INFINITY)))
          throw new NotExact();
        return cubeBatch(
          { length: columns[0]!.length, keys: keys.map((of, k) => of(columns[k]!)), partials: figures },
          question,
          types,
        );
      },
      signal,
      longestQuestion,
    );
  }

  async combinations(keys: readonly Dimension[], signal?: AbortSignal): Promise<number> {
    if (!keys.length) return 1;
    const columns = keysSql(keys, [...this.copied.fields], copyDialect).join(', ');
    const values: unknown[] = [];
    const [counts] = await this.ask(
      `SELECT count(*)::double FROM (SELECT DISTINCT ${columns} FROM ${this.allowed(values)}) AS found`,
      values,
      signal,
    );
    return counts![0] as number;
  }

  async describe(field: Field, signal?: AbortSignal): Promise<FieldProfile> {
    const column = quoted(field.key);
    const ordered = field.type === 'boolean' ? `${column}::varchar` : column;
    const dated = isTemporal(field.type);
    const end = (of: string) =>
      dated ? `${of}(${ordered})::varchar` : textOf(`${of}(${ordered})`, field.type);
    const finest = grains.filter((grain) => grain !== 'day');
    const firsts = dated
      ? finest
          .map((grain) => `, bool_and(${column} = date_trunc('${grain}', ${column})) AS ${grain}`)
          .join('')
      : '';
    const values: unknown[] = [];
    const columns = await this.ask(
      `SELECT count(*)::double, count(${column})::double, count(DISTINCT ${column})::double, ${end('min')}, ${end('max')}${firsts} FROM ${this.allowed(values)}`,
      values,
      signal,
    );
    const [rows, count, distinct, min, max, ...are] = columns.map(([value]) => value);
    return profileOf(field, {
      rows: rows as number,
      count: count as number,
      distinct: distinct as number,
      min,
      max,
      grain: dated ? (finest.find((_, i) => are[i] === true) ?? 'day') : undefined,
    });
  }

  /** Only the values that are new have to be found: all else a store by columns knows of all rows at once. */
  async describeMore(
    field: Field,
    before: { profile: FieldProfile; places: number },
    signal?: AbortSignal,
  ): Promise<FieldProfile> {
    const values = await this.rolled(
      { keys: [{ field: field.key }], partials: [{ aggregate: 'count' }], kept: [], limit: 1 },
      true,
    );
    // Until it is found, what was known before is shown.
    return this.engine.behind(() => this.describedFrom(field, before, values, signal));
  }

  private async describedFrom(
    field: Field,
    { profile, places }: { profile: FieldProfile; places: number },
    /** How often each value is there, where that is kept. */
    known: Rolled | null,
    signal?: AbortSignal,
  ): Promise<FieldProfile> {
    const column = quoted(field.key);
    const { grain } = profile;
    const dated = isTemporal(field.type);
    // Of one date nothing is known of how finely dates are taken.
    if (this.restriction || (dated && (profile.distinct < 2 || grain === undefined)))
      return this.describe(field, signal);
    const ordered = field.type === 'boolean' ? `${column}::varchar` : column;
    const type = field.type === 'boolean' ? 'varchar' : columnTypes[field.type];
    // Of what was there before the ends are known: only what came is looked at for them.
    const end = (of: 'min' | 'max', before: string) => {
      const found = `${of === 'min' ? 'least' : 'greatest'}(${of}(${ordered}), ${before}::${type})`;
      return dated ? `${found}::varchar` : textOf(found, field.type);
    };
    const fits =
      dated && grain !== 'day'
        ? `coalesce(bool_and(${column} = date_trunc('${grain}', ${column})), true)`
        : 'true';
    const later = `${placeColumn} >= $1::bigint`;
    // The few values that came are what is looked for among the many: the other way round would take as long as counting all.
    const young = `SELECT DISTINCT ${column} FROM ${this.table} WHERE ${later} AND ${column} IS NOT NULL`;
    const distinct = known
      ? `(SELECT count(DISTINCT ${known.dialect.keyOf!({ field: field.key })})::double FROM ${known.table})`
      : `${profile.distinct} + (SELECT count(*)::double FROM (${young}) AS came) -
        (SELECT count(DISTINCT ${column})::double FROM ${this.table} WHERE ${placeColumn} < $1::bigint AND ${column} IN (${young}))`;
    const bound = (value: string | number | null) => (value === null ? null : String(value));
    const columns = await this.ask(
      `SELECT count(*)::double, count(${column})::double, ${end('min', '$2')}, ${end('max', '$3')}, ${fits},
        ${distinct}
       FROM ${this.table} WHERE ${later}`,
      [places, bound(profile.min), bound(profile.max)],
      signal,
    );
    const [rows, count, min, max, fine, all] = columns.map(([value]) => value);
    if (!fine) return this.describe(field, signal);
    return profileOf(field, {
      rows: profile.count + profile.missing + (rows as number),
      count: profile.count + (count as number),
      distinct: all as number,
      min,
      max,
      grain,
    });
  }

  private async counted(field: Field, order: string, signal?: AbortSignal): Promise<CountedValue[]> {
    const column = quoted(field.key);
    const bound: unknown[] = [];
    const [values, counts] = await this.ask(
      `SELECT ${textOf('value', field.type)}, n FROM (SELECT ${column} AS value, count(*)::double AS n FROM ${this.allowed(bound)} WHERE ${column} IS NOT NULL GROUP BY 1) AS counted ORDER BY ${order}`,
      bound,
      signal,
    );
    return values!.map((value, i) => ({ value: value as KeyValue, count: counts![i] as number }));
  }

  async values(field: Field, signal?: AbortSignal): Promise<CountedValue[]> {
    const found = await this.counted(field, 'value', signal);
    if (field.type !== 'text') return found;
    const counts = new Map(found.map(({ value, count }) => [value as string, count]));
    const ordered = await this.inNaturalOrder([...counts.keys()]);
    return ordered.map((value) => ({ value, count: counts.get(value)! }));
  }

  commonest(field: Field, most: number, signal?: AbortSignal): Promise<CountedValue[]> {
    return this.counted(field, `n DESC, value LIMIT ${most}`, signal);
  }

  async bins(field: Field, { low, width, count }: Bins, signal?: AbortSignal): Promise<number[]> {
    const column = quoted(field.key);
    const range = low + count * width - low;
    const values: unknown[] = [low, range];
    const [bins, counts] = await this.ask(
      `SELECT least(floor(${count} * ((${column}::double - $1::double) / $2::double)), ${count - 1}) AS bin, count(*)::double FROM ${this.allowed(values)} WHERE ${column} IS NOT NULL GROUP BY 1`,
      values,
      signal,
    );
    const found = new Map(bins!.map((bin, i) => [bin as number, counts![i] as number]));
    return Array.from({ length: count }, (_, i) => found.get(i) ?? 0);
  }

  async rows(offset: number, limit: number, signal?: AbortSignal): Promise<unknown[][]> {
    const { fields } = this.copied;
    const values: unknown[] = [offset, limit];
    const columns = await this.ask(
      `SELECT ${fields.map(({ key, type }) => textOf(quoted(key), type)).join(', ')} FROM ${this.allowed(values)} ${pageOfRows(this.copied, this.restriction !== null)}`,
      values,
      signal,
    );
    return Array.from({ length: columns[0]?.length ?? 0 }, (_, i) => columns.map((column) => column[i]));
  }
}
