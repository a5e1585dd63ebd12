import type { FieldProfile } from '@sorvik/core/data/dataset';
import { type Dimension, grains } from '@sorvik/core/data/dimension';
import { isTemporal, type KeyValue } from '@sorvik/core/data/values';
import type { RecordBatch } from 'apache-arrow';
import type pg from 'pg';
import { reading } from '../../datasets/locked';
import type { Field } from '../../datasets/store';
import { badData, type Database, numericOverflow, quoted, tableOf } from '../../db/client';
import { aggregateSql, type Dialect, keysSql } from '../aggregate-sql';
import { coded, cubeBatch } from '../arrow';
import { keyTypesOf } from '../key-types';
import { placeColumn, profileOf } from '../row-columns';
import {
  type Bins,
  type CountedValue,
  NoFigure,
  OtherVersion,
  type Question,
  type Source,
  UnfitValues,
} from '../source';

const dialect: Dialect = {
  // Cut as a timestamp: as a date it would go by the clock of a time zone.
  firstDayOf: (grain, day) => `date_trunc('${grain}', ${day}::timestamp)::date`,
  isOneOf: (key, values, type, bind) => `${key} = ANY (${bind(values, `${type}[]`)})`,
  // The stretch that begins last before a value is the only one that it can lie in: found by halving, however many.
  isWithin(key, stretches, type, bind) {
    const from = bind(
      stretches.map(([first]) => first),
      `${type}[]`,
    );
    const to = bind(
      stretches.map(([, last]) => last),
      `${type}[]`,
    );
    return `(${key} <= (${to})[nullif(width_bucket(${key}, ${from}), 0)])`;
  },
};

/**
 * Combinations of more rows than this are estimated from so many of them: what is seen once stands for as many as the
 * sample is a share of, what is seen again has mostly been seen. That is the upper bound of Charikar and others, "Towards
 * Estimation Error Guarantees for Distinct Values" (2000): to ask per move where a cube would have done costs less than a
 * cube that is refused.
 */
const sampledRows = 200_000;

/** The coarsest grain of which all dates of a column are the first days, as SQL. */
const grainSql = (column: string) =>
  `CASE ${grains
    .filter((grain) => grain !== 'day')
    .map((grain) => `WHEN bool_and(${column} = date_trunc('${grain}', ${column}::timestamp)) THEN '${grain}'`)
    .join(' ')} ELSE 'day' END`;

/** Rows come as arrays; columns of keys first. */
const inColumns = (rows: readonly unknown[][], keys: number, partials: number) => ({
  length: rows.length,
  keys: Array.from({ length: keys }, (_, k) => coded(rows.map((row) => row[k]))),
  partials: Array.from({ length: partials }, (_, p) =>
    Float64Array.from(rows, (row) => (row[keys + p] as number | null) ?? Number.NaN),
  ),
});

/** Rows in a table of Sorvik's own database. */
export class TableSource implements Source {
  constructor(
    private readonly database: Database,
    private readonly dataset: {
      id: string;
      number: number;
      version: number;
      rows: number;
      fields: readonly Field[];
    },
    private readonly slow = false,
  ) {}

  get version(): number {
    return this.dataset.version;
  }

  answers(): boolean {
    return true;
  }

  /** Asks while nobody changes the rows. */
  private read<T>(
    work: (client: pg.ClientBase, table: string) => Promise<T>,
    signal?: AbortSignal,
  ): Promise<T> {
    const { id, version } = this.dataset;
    return reading(
      this.database,
      id,
      ({ client, dataset }) => {
        if (dataset.version !== version) throw new OtherVersion(dataset.version);
        return work(client, tableOf(dataset.number));
      },
      { slow: this.slow, ...(signal ? { signal } : {}) },
    );
  }

  private async rowsOf(question: Question, guarded: boolean, signal?: AbortSignal): Promise<unknown[][]> {
    const { rows } = await this.read(
      (client, table) =>
        client.query({
          ...aggregateSql(question, table, [...this.dataset.fields], dialect, guarded),
          rowMode: 'array',
        }),
      signal,
    );
    return rows;
  }

  async aggregate(question: Question, signal?: AbortSignal): Promise<RecordBatch> {
    const rows = await this.rowsOf(question, false, signal)
      // In some row an expression has no result: there it is null.
      .catch((error: { code?: string }) => {
        if (error.code?.startsWith(badData)) return this.rowsOf(question, true, signal);
        throw error;
      })
      .catch((error: { code?: string }) => {
        if (error.code === numericOverflow) throw new NoFigure();
        if (question.kept.length && error.code?.startsWith(badData)) throw new UnfitValues();
        throw error;
      });
    const columns = inColumns(rows, question.keys.length, question.partials.length);
    return cubeBatch(columns, question, keyTypesOf(question, this.dataset.fields));
  }

  combinations(keys: readonly Dimension[], signal?: AbortSignal): Promise<number> {
    const { rows: count, fields } = this.dataset;
    if (!keys.length) return Promise.resolve(1);
    const columns = keysSql(keys, [...fields], dialect)
      .map((key, i) => `${key} AS k${i}`)
      .join(', ');
    const share = Math.min(1, sampledRows / Math.max(1, count));
    const sample = share < 1 ? ` TABLESAMPLE SYSTEM (${100 * share}) REPEATABLE (1)` : '';
    return this.read(async (client, table) => {
      const { rows } = await client.query(
        `SELECT count(*) AS found, count(*) FILTER (WHERE n = 1) AS once FROM (SELECT count(*) AS n FROM (SELECT ${columns} FROM ${table}${sample}) AS sampled GROUP BY ${keys.map((_, i) => `k${i}`).join(', ')}) AS counted`,
      );
      const { found, once } = rows[0] as { found: number; once: number };
      return share < 1 ? Math.min(count, Math.round(found - once + once / share)) : found;
    }, signal);
  }

  describe(field: Field, signal?: AbortSignal): Promise<FieldProfile> {
    const column = quoted(field.key);
    const ordered = field.type === 'boolean' ? `${column}::text` : column;
    const dated = isTemporal(field.type);
    const shown = dated ? '::text' : '';
    return this.read(async (client, table) => {
      const totals = await client.query(
        `SELECT count(*) AS rows, count(${column}) AS count, (min(${ordered}))${shown} AS min, (max(${ordered}))${shown} AS max${dated ? `, ${grainSql(column)} AS grain` : ''} FROM ${table}`,
      );
      const distinct = await client.query(
        `SELECT count(*) AS n FROM (SELECT DISTINCT ${column} FROM ${table} WHERE ${column} IS NOT NULL) AS d`,
      );
      const { rows, count, min, max, grain } = totals.rows[0];
      return profileOf(field, { rows, count, min, max, grain, distinct: distinct.rows[0].n });
    }, signal);
  }

  values(field: Field, signal?: AbortSignal): Promise<CountedValue[]> {
    const column = quoted(field.key);
    const order = field.type === 'text' ? 'value COLLATE "sorvik"."natural_order", value' : 'value';
    return this.counted(
      (table) =>
        `SELECT value, count FROM (SELECT ${column} AS value, count(*)::int AS count FROM ${table} WHERE ${column} IS NOT NULL GROUP BY 1) AS listed ORDER BY ${order}`,
      signal,
    );
  }

  commonest(field: Field, most: number, signal?: AbortSignal): Promise<CountedValue[]> {
    const column = quoted(field.key);
    return this.counted(
      (table) =>
        `SELECT ${column} AS value, count(*)::int AS count FROM ${table} WHERE ${column} IS NOT NULL GROUP BY 1 ORDER BY 2 DESC, 1 LIMIT ${most}`,
      signal,
    );
  }

  private counted(text: (table: string) => string, signal?: AbortSignal): Promise<CountedValue[]> {
    return this.read(async (client, table) => {
      const { rows } = await client.query(text(table));
      return rows as { value: KeyValue; count: number }[];
    }, signal);
  }

  bins(field: Field, { low, width, count }: Bins, signal?: AbortSignal): Promise<number[]> {
    const column = quoted(field.key);
    return this.read(async (client, table) => {
      const { rows } = await client.query(
        `SELECT least(width_bucket(${column}::float8, $1::float8, $2::float8, $3::int), $3::int) AS bin, count(*) AS count FROM ${table} WHERE ${column} IS NOT NULL GROUP BY 1`,
        [low, low + count * width, count],
      );
      const counts = new Map(rows.map((row) => [row.bin as number, row.count as number]));
      return Array.from({ length: count }, (_, i) => counts.get(i + 1) ?? 0);
    }, signal);
  }

  rows(offset: number, limit: number, signal?: AbortSignal): Promise<unknown[][]> {
    const columns = this.dataset.fields.map(({ key }) => quoted(key)).join(', ');
    return this.read(async (client, table) => {
      const { rows } = await client.query({
        text: `SELECT ${columns} FROM ${table} WHERE ${placeColumn} >= $1::bigint AND ${placeColumn} < $1::bigint + $2::bigint ORDER BY ${placeColumn}`,
        values: [offset, limit],
        rowMode: 'array',
      });
      return rows;
    }, signal);
  }
}
