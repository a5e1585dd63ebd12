import type { PartialAggregate } from '@sorvik/core/data/cube';
import type { Dimension } from '@sorvik/core/data/dimension';
import { floats, floatsAt, intsAt } from '@sorvik/core/data/typed-lists';
import { compareKeys, type KeyValue } from '@sorvik/core/data/values';
import { english } from '@sorvik/core/messages/locale';
import { largestCube } from '@sorvik/core/pipeline/cube-size';
import { listed } from '@sorvik/core/words/plural';
import type pg from 'pg';
import type { Field } from '../../datasets/store';
import { badData, quoted } from '../../db/client';
import type { Relation, RemoteColumn } from '../../db/schema';
import { HttpProblem } from '../../http/problem';
import { tell } from '../../tell';
import type { Dialect } from '../aggregate-sql';
import type { CubeColumns } from '../arrow';
import { SqlSource } from '../postgres/sql-source';
import { allowedRows, type From, type Restriction } from '../restriction';
import type { Bins, CountedValue, Question } from '../source';
import { tableSql } from './columns';
import { sourceFailureOf, sourceProblem } from './problems';
import { relationOf } from './relations';
import type { Server } from './servers';

/** SQL that all take that speak PostgreSQL's protocol. */
export const plainDialect: Dialect = {
  place: '0',
  firstDayOf: (grain, day) => `date_trunc('${grain}', ${day}::timestamp)::date`,
  isOneOf: (key, values, type, bind) => `${key} = ANY (${bind(values, `${type}[]`)})`,
  isWithin: (key, stretches, type, bind) =>
    `(${stretches.map(([from, to]) => `${key} BETWEEN ${bind(from, type)} AND ${bind(to, type)}`).join(' OR ')})`,
};

/** A table in place: what it is here, and what it is called there. */
export interface PlacedTable {
  version: number;
  /** How many there were when it was last looked at. */
  rows: number;
  fields: readonly Field[];
  relation: Relation;
}

/** Where a table is, and what it takes to say so. */
export interface Place {
  server: Server;
  name: string;
  host: string;
  port: number;
  seconds: number;
  /** So many statements run at a time. */
  most: number;
}

const isFirst = ({ aggregate }: PartialAggregate) => aggregate === 'first';

/** The rows of an answer in the order of their keys; one without a value comes last. */
function inOrderOfKeys({ length, keys, partials }: CubeColumns): CubeColumns {
  const ranks = keys.map(({ values, codes }) => {
    const order = [...values.keys()].sort((a, b) =>
      compareKeys(values[a] as KeyValue, values[b] as KeyValue),
    );
    const rank = new Int32Array(values.length);
    order.forEach((code, at) => {
      rank[code] = at;
    });
    return codes.map((code) => (code < 0 ? values.length : rank[code]!));
  });
  const rows = Int32Array.from({ length }, (_, row) => row).sort((a, b) => {
    const differs = ranks.find((rank) => rank[a] !== rank[b]);
    return differs ? differs[a]! - differs[b]! : 0;
  });
  return {
    length,
    keys: keys.map(({ values, codes }) => ({ values, codes: intsAt(codes, rows) })),
    partials: partials.map((of) => floatsAt(of, rows)),
  };
}

/** Rows in a table of somebody else's database, which is only read. */
export class InPlaceSource extends SqlSource {
  readonly lasting = false;

  constructor(
    private readonly place: Place,
    private readonly table: PlacedTable,
    /** Puts texts into their natural order, which only our own database knows. */
    private readonly inNaturalOrder: (texts: string[]) => Promise<string[]>,
    restriction: Restriction | null,
  ) {
    super(table.fields, plainDialect, table.rows, restriction);
  }

  get version(): number {
    return this.table.version;
  }

  protected async read<T>(
    work: (client: pg.ClientBase, from: From) => Promise<T>,
    signal?: AbortSignal,
  ): Promise<T> {
    const { fields, relation } = this.table;
    const from = (known: readonly Field[]) =>
      this.place.server.read(
        (client) => work(client, allowedRows(tableSql(relation, known), this.restriction, known, false)),
        signal,
      );
    try {
      return await from(fields);
    } catch (error) {
      if (signal?.aborted) throw error;
      const changed = sourceFailureOf(error) === 'data' ? await this.whatChanged().catch(() => null) : null;
      if (!changed) throw this.told(error);
      if (!changed.same.length) throw changed.problem;
      // Who does not need what has changed is answered all the same.
      return from(changed.same).catch((again) => {
        throw sourceFailureOf(again) === 'data' ? changed.problem : this.told(again);
      });
    }
  }

  /** What is wrong with the values is told to whoever asked for them, as it is. */
  private told(error: unknown): unknown {
    return (error as { code?: string }).code?.startsWith(badData) ? error : sourceProblem(error, this.place);
  }

  /** How a table differs from what it was when it was last looked at, and what is the same; null where all is. */
  private async whatChanged(): Promise<{ problem: HttpProblem; same: Field[] } | null> {
    const { fields, relation } = this.table;
    const now = await this.place.server.read((client) => relationOf(client, relation.schema, relation.name));
    const names = { table: `${relation.schema}.${relation.name}`, name: this.place.name };
    const problem = (detail: string) => new HttpProblem(502, 'source-has-changed', detail);
    if (!now) return { problem: problem(tell('inPlace.noTable', names)), same: [] };
    const types = new Map(now.fields.map(({ name, is }) => [name, is]));
    const same = fields.filter(({ column }) => column && types.get(column.name) === column.type);
    const other = fields.flatMap(({ column }) =>
      column && types.get(column.name) !== column.type ? column : [],
    );
    if (!other.length) return null;
    const lost = other.filter(({ name }) => !types.has(name)).map(({ name }) => `“${name}”`);
    if (lost.length)
      return {
        problem: problem(tell('inPlace.lost', { ...names, n: lost.length, columns: listed(lost, english) })),
        same,
      };
    const [{ name: column, type: was }] = other as [RemoteColumn];
    return {
      problem: problem(tell('inPlace.retyped', { ...names, column, was, is: types.get(column)! })),
      same,
    };
  }

  protected override async columnsOf(
    question: Question,
    guarded: boolean,
    signal?: AbortSignal,
  ): Promise<CubeColumns> {
    // The functions that make null of what has no result are in our own database only.
    if (guarded && this.sqlOf(question, () => '', true).text.includes('sorvik.'))
      throw new HttpProblem(422, 'source-failed', tell('inPlace.noResult', { name: this.place.name }));
    const columns = await super.columnsOf(question, guarded, signal);
    if (!question.partials.some(isFirst)) return columns;
    // Rows of a table have no order: what asks for the first of each is given that of the keys.
    const ordered = inOrderOfKeys(columns);
    const places = floats(columns.length, (row) => row);
    return {
      ...ordered,
      partials: ordered.partials.map((of, i) => (isFirst(question.partials[i]!) ? places : of)),
    };
  }

  async combinations(keys: readonly Dimension[], signal?: AbortSignal): Promise<number> {
    if (!keys.length) return 1;
    return this.read(
      async (client, from) => (await this.combinationsIn(client, from, keys)).found,
      signal,
    ).catch((error) => {
      // What cannot even be counted in time is asked for per move.
      if (error instanceof HttpProblem && error.kind === 'source-too-slow') return largestCube + 1;
      throw error;
    });
  }

  async values(field: Field, signal?: AbortSignal): Promise<CountedValue[]> {
    const column = quoted(field.key);
    const found = await this.counted(
      (table) =>
        `SELECT ${column} AS value, count(*)::int AS count FROM ${table} WHERE ${column} IS NOT NULL GROUP BY 1 ORDER BY 1`,
      signal,
    );
    if (field.type !== 'text') return found;
    const counts = new Map(found.map(({ value, count }) => [value as string, count]));
    const ordered = await this.inNaturalOrder([...counts.keys()]);
    return ordered.map((value) => ({ value, count: counts.get(value)! }));
  }

  bins(field: Field, { low, width, count }: Bins, signal?: AbortSignal): Promise<number[]> {
    const column = quoted(field.key);
    return this.read(async (client, from) => {
      const values: unknown[] = [low, low + count * width - low];
      const { rows } = await client.query(
        `SELECT least(floor(${count} * ((${column}::float8 - $1::float8) / $2::float8)), ${count - 1})::int AS bin, count(*)::int AS count FROM ${from(values)} WHERE ${column} IS NOT NULL GROUP BY 1`,
        values,
      );
      const counts = new Map(rows.map(({ bin, count: n }) => [bin as number, n as number]));
      return Array.from({ length: count }, (_, i) => counts.get(i) ?? 0);
    }, signal);
  }

  /** All rows as SQL, in the order of their key; those of a table that has none as they come. */
  private inOrder(table: string): string {
    const { order } = this.table.relation;
    const keys = this.fields.filter(({ column }) => column && order.includes(column.name));
    const by = keys.length ? ` ORDER BY ${keys.map(({ key }) => quoted(key)).join(', ')}` : '';
    return `SELECT ${this.fields.map(({ key }) => quoted(key)).join(', ')} FROM ${table}${by}`;
  }

  rows(offset: number, limit: number, signal?: AbortSignal): Promise<unknown[][]> {
    return this.read(async (client, from) => {
      const values: unknown[] = [];
      const { rows } = await client.query({
        text: `${this.inOrder(from(values))} LIMIT ${limit} OFFSET ${offset}`,
        values,
        rowMode: 'array',
      });
      return rows;
    }, signal);
  }

  /** All rows as they are at one moment, some at a time, as they are taken. Throws where the table is another one by now. */
  async *allRows(signal: AbortSignal): AsyncGenerator<unknown[][]> {
    const { fields, relation } = this.table;
    try {
      yield* this.place.server.readAll(this.inOrder(tableSql(relation, fields)), signal);
    } catch (error) {
      if (signal.aborted) throw error;
      const changed = sourceFailureOf(error) === 'data' ? await this.whatChanged().catch(() => null) : null;
      throw changed?.problem ?? this.told(error);
    }
  }
}
