import type { Dimension } from '@sorvik/core/data/dimension';
import type pg from 'pg';
import { reading } from '../../datasets/locked';
import type { Field } from '../../datasets/store';
import { type Database, quoted, tableOf } from '../../db/client';
import type { Dialect } from '../aggregate-sql';
import type { From, Restriction } from '../restriction';
import { pageOfRows, placeColumn } from '../row-columns';
import { type Bins, type CountedValue, OtherVersion } from '../source';
import { SqlSource } from './sql-source';

const dialect: Dialect = {
  place: placeColumn,
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

/** Rows in a table of Sorvik's own database. */
export class TableSource extends SqlSource {
  readonly lasting = true;
  private readonly slow: boolean;

  constructor(
    private readonly database: Database,
    private readonly dataset: {
      id: string;
      number: number;
      version: number;
      shaped: number;
      rows: number;
      places: number;
      fields: readonly Field[];
    },
    { slow = false, restriction = null }: { slow?: boolean; restriction?: Restriction | null } = {},
  ) {
    super(dataset.fields, dialect, dataset.rows, restriction);
    this.slow = slow;
  }

  get version(): number {
    return this.dataset.version;
  }

  /** Asks while nobody changes the rows. */
  protected read<T>(
    work: (client: pg.ClientBase, from: From, table: string) => Promise<T>,
    signal?: AbortSignal,
  ): Promise<T> {
    const { id, shaped } = this.dataset;
    return reading(
      this.database,
      id,
      ({ client, dataset }) => {
        // Rows that came or went since are answered for; of other fields nothing could be said.
        if (dataset.shaped !== shaped) throw new OtherVersion(dataset.version);
        const table = tableOf(dataset.number);
        return work(client, this.allowed(table), table);
      },
      { slow: this.slow, ...(signal ? { signal } : {}) },
    );
  }

  combinations(keys: readonly Dimension[], signal?: AbortSignal): Promise<number> {
    const { rows: count } = this.dataset;
    if (!keys.length) return Promise.resolve(1);
    const share = Math.min(1, sampledRows / Math.max(1, count));
    const sample = share < 1 ? ` TABLESAMPLE SYSTEM (${100 * share}) REPEATABLE (1)` : '';
    return this.read(async (client, _from, table) => {
      const { found, once } = await this.combinationsIn(client, this.allowed(`${table}${sample}`), keys);
      return share < 1 ? Math.min(count, Math.round(found - once + once / share)) : found;
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

  bins(field: Field, { low, width, count }: Bins, signal?: AbortSignal): Promise<number[]> {
    const column = quoted(field.key);
    return this.read(async (client, from) => {
      const values: unknown[] = [low, low + count * width, count];
      const { rows } = await client.query(
        `SELECT least(width_bucket(${column}::float8, $1::float8, $2::float8, $3::int), $3::int) AS bin, count(*) AS count FROM ${from(values)} WHERE ${column} IS NOT NULL GROUP BY 1`,
        values,
      );
      const counts = new Map(rows.map((row) => [row.bin as number, row.count as number]));
      return Array.from({ length: count }, (_, i) => counts.get(i + 1) ?? 0);
    }, signal);
  }

  rows(offset: number, limit: number, signal?: AbortSignal): Promise<unknown[][]> {
    const columns = this.fields.map(({ key }) => quoted(key)).join(', ');
    return this.read(async (client, from) => {
      const values: unknown[] = [offset, limit];
      const { rows } = await client.query({
        text: `SELECT ${columns} FROM ${from(values)} ${pageOfRows(this.dataset, this.restriction !== null)}`,
        values,
        rowMode: 'array',
      });
      return rows;
    }, signal);
  }
}
