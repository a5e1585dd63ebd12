import type { FieldProfile } from '@sorvik/core/data/dataset';
import { type Dimension, grains } from '@sorvik/core/data/dimension';
import { isTemporal, type KeyValue } from '@sorvik/core/data/values';
import type { RecordBatch } from 'apache-arrow';
import pg from 'pg';
import type { Field } from '../../datasets/store';
import { badData, numericOverflow, quoted } from '../../db/client';
import { aggregateSql, type Dialect, isSoonerByDay, keysSql } from '../aggregate-sql';
import { type CubeColumns, cubeBatch, ValueCodes } from '../arrow';
import { GrowingFloats } from '../growing-floats';
import { keyTypesOf } from '../key-types';
import { allowedRows, type From, type Restriction, scopeOf } from '../restriction';
import { profileOf } from '../row-columns';
import { type Bins, type CountedValue, NoFigure, type Question, type Source, UnfitValues } from '../source';

/** The coarsest grain of which all dates of a column are the first days, as SQL. */
const grainSql = (column: string) =>
  `CASE ${grains
    .filter((grain) => grain !== 'day')
    .map((grain) => `WHEN bool_and(${column} = date_trunc('${grain}', ${column}::timestamp)) THEN '${grain}'`)
    .join(' ')} ELSE 'day' END`;

/** What a statement answers, whose columns are keys and then partial aggregates. Rows are not kept: there may be millions. */
function inColumns(
  client: pg.ClientBase,
  statement: { text: string; values: unknown[] },
  { keys, partials }: Question,
): Promise<CubeColumns> {
  const codes = keys.map(() => ({ known: new ValueCodes(), of: new GrowingFloats() }));
  const figures = partials.map(() => new GrowingFloats());
  let length = 0;
  const take = (row: unknown[]) => {
    length++;
    codes.forEach(({ known, of }, k) => {
      of.push(known.of(row[k]));
    });
    figures.forEach((of, p) => {
      of.push((row[keys.length + p] as number | null) ?? Number.NaN);
    });
  };
  return new Promise((resolve, reject) => {
    // What a time limit ends is told to the callback alone.
    const callback = (error: Error | null) => {
      if (error) return reject(error);
      resolve({
        length,
        keys: codes.map(({ known, of }) => ({ codes: Int32Array.from(of.values()), values: known.values() })),
        partials: figures.map((of) => of.values()),
      });
    };
    const config = { ...statement, rowMode: 'array' } as pg.QueryConfig;
    const query = Object.assign(new pg.Query(config), { callback });
    query.on('row', (row, result) => {
      // Whoever has a callback is also kept all rows for.
      if (result) result.rows.length = 0;
      take(row as unknown as unknown[]);
    });
    client.query(query);
  });
}

/** Rows that are asked for in PostgreSQL's SQL, wherever they are. */
export abstract class SqlSource implements Source {
  protected constructor(
    protected readonly fields: readonly Field[],
    protected readonly dialect: Dialect,
    /** How many rows there are, about. */
    private readonly rowCount: number,
    /** Which rows are for whoever asks; null for all. */
    protected readonly restriction: Restriction | null,
  ) {
    this.scope = scopeOf(restriction, fields);
  }

  readonly scope: string;

  abstract readonly version: number;
  abstract readonly lasting: boolean;

  /** What of a table is for whoever asks. */
  protected allowed(table: string, guarded = true): From {
    return allowedRows(table, this.restriction, this.fields, guarded);
  }

  /** Asks; `from` is what rows are selected from. */
  protected abstract read<T>(
    work: (client: pg.ClientBase, from: From) => Promise<T>,
    signal?: AbortSignal,
  ): Promise<T>;

  answers(): boolean {
    return true;
  }

  protected sqlOf(question: Question, from: From, guarded: boolean) {
    const fields = [...this.fields];
    const byDay = isSoonerByDay(question, fields, this.rowCount);
    return aggregateSql(question, from, fields, this.dialect, { guarded, byDay });
  }

  protected columnsOf(question: Question, guarded: boolean, signal?: AbortSignal): Promise<CubeColumns> {
    return this.read(
      (client, from) => inColumns(client, this.sqlOf(question, from, guarded), question),
      signal,
    );
  }

  async aggregate(question: Question, signal?: AbortSignal): Promise<RecordBatch> {
    const columns = await this.columnsOf(question, false, signal)
      // In some row an expression has no result: there it is null.
      .catch((error: { code?: string }) => {
        if (error.code?.startsWith(badData)) return this.columnsOf(question, true, signal);
        throw error;
      })
      .catch((error: { code?: string }) => {
        if (error.code === numericOverflow) throw new NoFigure();
        if (question.kept.length && error.code?.startsWith(badData)) throw new UnfitValues();
        throw error;
      });
    return cubeBatch(columns, question, keyTypesOf(question, this.fields));
  }

  abstract combinations(keys: readonly Dimension[], signal?: AbortSignal): Promise<number>;

  /** How many combinations of keys there are in what is selected from, and how many of them once. */
  protected async combinationsIn(
    client: pg.ClientBase,
    from: From,
    keys: readonly Dimension[],
  ): Promise<{ found: number; once: number }> {
    const columns = keysSql(keys, [...this.fields], this.dialect)
      .map((key, i) => `${key} AS k${i}`)
      .join(', ');
    const names = keys.map((_, i) => `k${i}`).join(', ');
    const values: unknown[] = [];
    const { rows } = await client.query(
      `SELECT count(*) AS found, count(*) FILTER (WHERE n = 1) AS once FROM (SELECT count(*) AS n FROM (SELECT ${columns} FROM ${from(values)}) AS sampled GROUP BY ${names}) AS counted`,
      values,
    );
    return rows[0] as { found: number; once: number };
  }

  describe(field: Field, signal?: AbortSignal): Promise<FieldProfile> {
    const column = quoted(field.key);
    const ordered = field.type === 'boolean' ? `${column}::text` : column;
    const dated = isTemporal(field.type);
    const shown = dated ? '::text' : '';
    return this.read(async (client, from) => {
      const values: unknown[] = [];
      const rowsSql = from(values);
      const totals = await client.query(
        `SELECT count(*) AS rows, count(${column}) AS count, (min(${ordered}))${shown} AS min, (max(${ordered}))${shown} AS max${dated ? `, ${grainSql(column)} AS grain` : ''} FROM ${rowsSql}`,
        values,
      );
      const distinct = await client.query(
        `SELECT count(*) AS n FROM (SELECT DISTINCT ${column} FROM ${rowsSql} WHERE ${column} IS NOT NULL) AS d`,
        values,
      );
      const { rows, count, min, max, grain } = totals.rows[0];
      return profileOf(field, { rows, count, min, max, grain, distinct: distinct.rows[0].n });
    }, signal);
  }

  abstract values(field: Field, signal?: AbortSignal): Promise<CountedValue[]>;

  commonest(field: Field, most: number, signal?: AbortSignal): Promise<CountedValue[]> {
    const column = quoted(field.key);
    return this.counted(
      (table) =>
        `SELECT ${column} AS value, count(*)::int AS count FROM ${table} WHERE ${column} IS NOT NULL GROUP BY 1 ORDER BY 2 DESC, 1 LIMIT ${most}`,
      signal,
    );
  }

  protected counted(text: (rows: string) => string, signal?: AbortSignal): Promise<CountedValue[]> {
    return this.read(async (client, from) => {
      const values: unknown[] = [];
      const { rows } = await client.query(text(from(values)), values);
      return rows as { value: KeyValue; count: number }[];
    }, signal);
  }

  abstract bins(field: Field, bins: Bins, signal?: AbortSignal): Promise<number[]>;

  abstract rows(offset: number, limit: number, signal?: AbortSignal): Promise<unknown[][]>;
}
