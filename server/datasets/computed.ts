import type { RowField } from '@sorvik/core/data/dataset';
import { dependents, fieldsIn, readRow } from '@sorvik/core/data/row-formula';
import { type FieldType, isNumeric } from '@sorvik/core/data/values';
import { english } from '@sorvik/core/messages/locale';
import { listed } from '@sorvik/core/words/plural';
import { type Compiled, type SqlPrinter, sqlTypes as valueSql } from '@sorvik/formula/compiled';
import { fullEngine } from '@sorvik/formula/full-engine';
import { and, sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import type pg from 'pg';
import { badData, type Database, type Db, quoted, tableOf } from '../db/client';
import * as schema from '../db/schema';
import { boards } from '../db/schema';
import { HttpProblem, invalid } from '../http/problem';
import { fieldKeys } from '../imports/field-keys';
import { sqlTypes } from '../imports/load';
import { indexPlaces, makeRowTable, tablesOf } from '../sources/postgres/row-table';
import { placeColumn } from '../sources/row-columns';
import { tell } from '../tell';
import { alone } from './locked';
import { type Field, fieldsOf, type StoredDataset } from './store';

export const asRowField = ({ key, name, type, formula }: Field): RowField => ({
  key,
  name,
  type,
  ...(formula === undefined ? {} : { formula }),
});

/** Fields that a table can have; PostgreSQL ends at 1,600 columns, those that went included. */
const mostFields = 1000;

/** Writes a formula's values as parameters after those in `values`, its fields as quoted names. */
export function rowPrinter(fields: readonly RowField[], values: unknown[], guarded = false): SqlPrinter {
  const types = new Map(fields.map(({ key, type }) => [key, type]));
  return {
    value: (value, type) => `$${values.push(value)}::${valueSql[type]}`,
    list: (held, type) => `$${values.push([...held])}::${valueSql[type]}[]`,
    column(key) {
      const type = types.get(key);
      if (type === undefined) throw new Error(`The dataset has no field ${key}.`);
      return isNumeric(type) ? `${quoted(key)}::double precision` : quoted(key);
    },
    lever: () => null,
    ...(guarded ? { guarded: true as const } : {}),
  };
}

/** A formula that can be computed for each row, or an answer that points at what is wrong with it. */
function needRow(text: string, fields: readonly RowField[], own?: string) {
  const read = readRow(text, fields, fullEngine, own);
  if (!read.ok)
    throw invalid([
      { pointer: '/formula', message: read.problem.message, from: read.problem.from, to: read.problem.to },
    ] as never);
  return read;
}

/** Lays the rows of a table out anew, in their order, with one column computed. */
async function layOutTable(
  client: pg.ClientBase,
  { table, more }: { table: string; more: string[] },
  fields: readonly RowField[],
  made: { key: string; type: FieldType; held: Compiled },
): Promise<void> {
  const next = `${table}_next`;
  const kept = fields.map(({ key }) => key).filter((key) => key !== made.key);
  const types = new Map(fields.map(({ key, type }) => [key, type]));
  const columns = [...kept.map((key) => [key, types.get(key)!] as const), [made.key, made.type] as const];
  await makeRowTable(client, next, [
    ...columns.map(([key, type]) => `${quoted(key)} ${sqlTypes[type]}`),
    ...more.filter((column) => column !== placeColumn).map((column) => `${column} integer NOT NULL`),
  ]);
  const names = [...columns.map(([key]) => quoted(key)), ...more].join(', ');
  const fill = async (guarded: boolean) => {
    const values: unknown[] = [];
    const expression = made.held.sql(rowPrinter(fields, values, guarded));
    const selected = [...kept.map(quoted), `(${expression})::${sqlTypes[made.type]}`, ...more].join(', ');
    await client.query(`INSERT INTO ${next} (${names}) SELECT ${selected} FROM ${table}`, values);
  };
  await client.query('SAVEPOINT filled');
  try {
    await fill(false);
  } catch (error) {
    // In some row it has no result: there it is null.
    if (!(error as { code?: string }).code?.startsWith(badData)) throw error;
    await client.query('ROLLBACK TO SAVEPOINT filled');
    await fill(true);
  }
  await client.query(`DROP TABLE ${table}`);
  await client.query(`ALTER TABLE ${next} RENAME TO ${table.slice('data.'.length)}`);
  await indexPlaces(client, table);
  await client.query(`ANALYZE ${table}`);
}

/** Lays the rows of a dataset out anew, those that were taken out of it too. */
async function layOut(
  client: pg.ClientBase,
  { number }: Pick<StoredDataset, 'number'>,
  fields: readonly RowField[],
  made: { key: string; type: FieldType; held: Compiled },
): Promise<void> {
  const tables = await tablesOf(client, number);
  for (const table of tables) await layOutTable(client, table, fields, made);
  if (tables.length > 1) await client.query(`ALTER TABLE ${tableOf(number)} RESET (autovacuum_enabled)`);
}

/**
 * Computes a field for a table that has all else, and gives its type. Throws a problem that names the field where it cannot
 * be computed there.
 */
export async function computeInto(
  client: pg.ClientBase,
  table: Pick<StoredDataset, 'number'>,
  fields: readonly RowField[],
  { key, name, formula }: { key: string; name: string; formula: string },
): Promise<FieldType> {
  const read = readRow(formula, fields, fullEngine, key);
  if (!read?.ok)
    throw new HttpProblem(
      409,
      'used-by-a-formula',
      tell('computed.cannotBeComputed', { name, why: read?.problem.message ?? '' }),
    );
  await layOut(client, table, fields, { key, ...read });
  return read.type;
}

/** One transaction in which rows are read in their order, by one worker and from the beginning. */
export async function inOrder<T>(
  { pool }: Database,
  work: (client: pg.ClientBase, db: Db) => Promise<T>,
): Promise<T> {
  const client = await pool.connect();
  try {
    await client.query('BEGIN');
    await client.query('SET LOCAL synchronize_seqscans = off');
    await client.query('SET LOCAL max_parallel_workers_per_gather = 0');
    const made = await work(client, drizzle(client, { schema }));
    await client.query('COMMIT');
    return made;
  } catch (error) {
    await client.query('ROLLBACK').catch(() => {});
    throw error;
  } finally {
    client.release();
  }
}

/** Counts a change of the fields: whoever asked before asks again. What is known of the other fields stays known. */
export async function grown(client: pg.ClientBase, { id }: Pick<StoredDataset, 'id'>): Promise<void> {
  // A profile of rows that have come or gone since is of no state that there will be.
  await client.query(
    `UPDATE sorvik.fields SET profile = NULL FROM sorvik.datasets WHERE datasets.id = $1 AND dataset = $1
       AND profiled <> jsonb_build_object('shaped', shaped, 'places', places, 'rows', rows)`,
    [id],
  );
  await client.query('UPDATE sorvik.datasets SET version = version + 1, shaped = version + 1 WHERE id = $1', [
    id,
  ]);
  await keepProfiled(client, id);
}

/** Has the profiles of a dataset's fields be of its rows as they are now. */
export const keepProfiled = (client: pg.ClientBase, id: string) =>
  client.query(
    `UPDATE sorvik.fields SET profiled = jsonb_build_object('shaped', shaped, 'places', places, 'rows', rows)
     FROM sorvik.datasets WHERE datasets.id = $1 AND dataset = $1 AND profile IS NOT NULL`,
    [id],
  );

/** Throws where the disk has no room for the rows of a dataset to be laid out anew, so many times over. */
export async function roomToLayOut(
  { room }: Database,
  client: pg.ClientBase,
  dataset: StoredDataset,
  times: number,
): Promise<void> {
  const { rows } = await client.query('SELECT pg_total_relation_size($1::regclass) AS bytes', [
    tableOf(dataset.number),
  ]);
  await room.ensure(rows[0].bytes * times);
}

/** Adds a field that is computed from others in the same row; gives its key. */
export async function addComputed(
  database: Database,
  dataset: StoredDataset,
  { name, formula }: { name: string; formula: string },
): Promise<string> {
  return inOrder(database, async (client, db) => {
    await alone(client, dataset.id);
    const fields = await fieldsOf(db, dataset.id);
    if (fields.length >= mostFields)
      throw invalid([{ pointer: '/name', message: tell('computed.aDatasetHasUp', { most: mostFields }) }]);
    if (fields.some((field) => field.name.toLowerCase() === name.toLowerCase()))
      throw invalid([{ pointer: '/name', message: tell('computed.thereIsAField', { name }) }]);
    const known = fields.map(asRowField);
    const read = needRow(formula, known);
    await roomToLayOut(database, client, dataset, 1);
    const key = fieldKeys([...fields.map((field) => field.key), name]).at(-1)!;
    await layOut(client, dataset, known, { key, ...read });
    await client.query(
      'INSERT INTO sorvik.fields (dataset, key, name, type, place, formula) VALUES ($1, $2, $3, $4, $5, $6)',
      [dataset.id, key, name, read.type, Math.max(-1, ...fields.map(({ place }) => place)) + 1, formula],
    );
    await grown(client, dataset);
    return key;
  });
}

/** Computes fields anew, each after those that it is computed from; `now` is what the table is like. */
async function computeAgain(
  client: pg.ClientBase,
  dataset: StoredDataset,
  now: readonly RowField[],
  keys: readonly string[],
): Promise<void> {
  const [changed] = keys;
  let fields = now;
  for (const key of keys) {
    const { name, formula = '' } = fields.find((field) => field.key === key)!;
    const read = readRow(formula, fields, fullEngine, key);
    if (!read?.ok) {
      if (key === changed) needRow(formula, fields, key);
      throw invalid([
        {
          pointer: '/formula',
          message: tell('computed.isCalculatedFromIt', { name, why: read?.problem.message ?? '' }),
        },
      ]);
    }
    await layOut(client, dataset, fields, { key, ...read });
    fields = fields.map((field) => (field.key === key ? { ...field, type: read.type } : field));
    await client.query(
      'UPDATE sorvik.fields SET formula = $3, type = $4, profile = NULL WHERE dataset = $1 AND key = $2',
      [dataset.id, key, formula, read.type],
    );
  }
}

/** Computes a field by another formula, and after it those that are computed from it. */
export async function changeComputed(
  database: Database,
  dataset: StoredDataset,
  key: string,
  formula: string,
): Promise<void> {
  await inOrder(database, async (client, db) => {
    await alone(client, dataset.id);
    const before = (await fieldsOf(db, dataset.id)).map(asRowField);
    const field = before.find((each) => each.key === key)!;
    if (field.formula === undefined)
      throw invalid([
        { pointer: '/formula', message: tell('computed.comesFromTheFile', { field: field.name }) },
      ]);
    const fields = before.map((each) => (each.key === key ? { ...each, formula } : each));
    needRow(formula, fields, key);
    const keys = [key, ...dependents(key, fields, fullEngine).map((each) => each.key)];
    await roomToLayOut(database, client, dataset, keys.length);
    await computeAgain(client, dataset, fields, keys);
    await grown(client, dataset);
  });
}

/** Computes anew what hangs on a field that has changed its type, in the transaction in which it does. */
export async function computeDependents(
  client: pg.ClientBase,
  dataset: StoredDataset,
  fields: readonly RowField[],
  key: string,
): Promise<void> {
  await computeAgain(
    client,
    dataset,
    fields,
    dependents(key, fields, fullEngine).map((each) => each.key),
  );
}

/** Refuses a type that a computed field could not work with. */
export async function checkRetype(
  { db }: Database,
  dataset: StoredDataset,
  key: string,
  type: FieldType,
): Promise<void> {
  const fields = (await fieldsOf(db, dataset.id)).map(asRowField);
  const changed = fields.find((field) => field.key === key)!;
  if (changed.formula) throw new HttpProblem(409, 'computed-field', tell('computed.theTypeOfA'));
  let now = fields.map((field) => (field.key === key ? { ...field, type } : field));
  for (const { key: next, name, formula = '' } of dependents(key, now, fullEngine)) {
    const read = readRow(formula, now, fullEngine);
    if (!read?.ok)
      throw new HttpProblem(
        409,
        'used-by-a-formula',
        tell('computed.isCalculatedFromAnd', {
          name,
          from: changed.name,
          why: read ? read.problem.message : '',
        }),
      );
    now = now.map((field) => (field.key === next ? { ...field, type: read.type } : field));
  }
}

/** What names a field: computed fields, and boards that read the dataset. */
export async function fieldUses({ db }: Database, dataset: StoredDataset, key: string) {
  const fields = (await fieldsOf(db, dataset.id)).map(asRowField);
  const computed = fields.filter(
    ({ formula }) => formula && fieldsIn(formula, fields, fullEngine).includes(key),
  );
  // A board names a field by its key, in a text of its own or within a formula.
  const found = await db
    .select({ id: boards.id, title: sql<string>`${boards.document} ->> 'title'` })
    .from(boards)
    .where(
      and(
        sql`${boards.deletedAt} IS NULL`,
        sql`EXISTS (SELECT FROM (SELECT jsonb_path_query(${boards.document}, '$.charts[*]') UNION ALL SELECT jsonb_path_query(${boards.document}, '$.levers[*]')) AS parts(part)
          WHERE part ->> 'dataset' = ${dataset.id}
          AND EXISTS (SELECT FROM (SELECT jsonb_path_query(part, '$.**.field') UNION ALL SELECT jsonb_path_query(part, '$.**.text')) AS names(named)
            WHERE named #>> '{}' ~* ('(^|[^a-z0-9_])' || ${key}::text || '($|[^a-z0-9_])')))`,
      ),
    );
  return { fields: computed.map(({ name }) => name), boards: found };
}

/** Takes a computed field away, unless another one is computed from it. */
export async function dropComputed(database: Database, dataset: StoredDataset, key: string): Promise<void> {
  const field = (await fieldsOf(database.db, dataset.id)).find((each) => each.key === key)!;
  if (field.formula === undefined)
    throw new HttpProblem(409, 'not-computed', tell('computed.onlyComputedFieldsCan', { field: field.name }));
  const { fields } = await fieldUses(database, dataset, key);
  if (fields.length)
    throw new HttpProblem(
      409,
      'used-by-a-formula',
      tell('computed.computedFromChangeOr', {
        n: fields.length,
        fields: listed(fields, english),
        from: field.name,
      }),
    );
  await inOrder(database, async (client) => {
    await alone(client, dataset.id);
    for (const { table } of await tablesOf(client, dataset.number))
      await client.query(`ALTER TABLE ${table} DROP COLUMN IF EXISTS ${quoted(key)}`);
    await client.query('DELETE FROM sorvik.fields WHERE dataset = $1 AND key = $2', [dataset.id, key]);
    await grown(client, dataset);
  });
}
