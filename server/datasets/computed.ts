import { cameWithRows, type RowField } from '@sorvik/core/data/dataset';
import { dependents, madeFrom, readRow } from '@sorvik/core/data/row-formula';
import type { FieldType } from '@sorvik/core/data/values';
import { english } from '@sorvik/core/messages/locale';
import { listed } from '@sorvik/core/words/plural';
import { fullEngine } from '@sorvik/formula/full-engine';
import { and, sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import type pg from 'pg';
import { type Database, type Db, quoted, tableOf } from '../db/client';
import * as schema from '../db/schema';
import { boards } from '../db/schema';
import { HttpProblem, invalid } from '../http/problem';
import { fieldKeys } from '../imports/field-keys';
import { tablesOf } from '../sources/postgres/row-table';
import { tell } from '../tell';
import { formulaMaking, layOut, readMaking } from './lay-out';
import { alone } from './locked';
import { needKeysComparable, needNotLookedUp, planLookups } from './looked-up';
import { asLookup, type Field, fieldsOf, type StoredDataset } from './store';

export const asRowField = ({ key, name, type, formula, lookup }: Field): RowField => ({
  key,
  name,
  type,
  ...(formula === undefined ? {} : { formula }),
  ...(lookup === undefined ? {} : { lookup: asLookup(lookup) }),
});

/** Fields that a table can have; PostgreSQL ends at 1,600 columns, those that went included. */
export const mostFields = 1000;

/** A formula that can be computed for each row, or an answer that points at what is wrong with it. */
function needRow(text: string, fields: readonly RowField[], own?: string) {
  const read = readRow(text, fields, fullEngine, own);
  if (!read.ok)
    throw invalid([
      { pointer: '/formula', message: read.problem.message, from: read.problem.from, to: read.problem.to },
    ] as never);
  return read;
}

/**
 * Makes a field for a table that has all else, and gives it as it is there. Throws a problem that names the field where it
 * cannot be made there.
 */
export async function computeInto(
  client: pg.ClientBase,
  table: Pick<StoredDataset, 'number'>,
  fields: readonly RowField[],
  field: Field,
): Promise<Field> {
  const read = await readMaking(client, asRowField(field), fields);
  if (!read.ok)
    throw new HttpProblem(
      409,
      'used-by-a-formula',
      tell('computed.cannotBeComputed', { name: field.name, why: read.problem.message }),
    );
  await layOut(client, table, fields, read.making);
  const { type, lookup } = read.making;
  return { ...field, type, ...(lookup ? { lookup } : {}) };
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
  await planLookups(client, id);
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
    await layOut(client, dataset, known, formulaMaking(key, read, known));
    await client.query(
      'INSERT INTO sorvik.fields (dataset, key, name, type, place, formula) VALUES ($1, $2, $3, $4, $5, $6)',
      [dataset.id, key, name, read.type, Math.max(-1, ...fields.map(({ place }) => place)) + 1, formula],
    );
    await grown(client, dataset);
    return key;
  });
}

/** Makes fields anew, each after those that it is made from; `now` is what the table is like. */
export async function makeAgain(
  client: pg.ClientBase,
  dataset: StoredDataset,
  now: readonly RowField[],
  keys: readonly string[],
): Promise<void> {
  const [changed] = keys;
  let fields = now;
  for (const key of keys) {
    const field = fields.find((each) => each.key === key)!;
    const read = await readMaking(client, field, fields, key);
    if (!read.ok) {
      if (key === changed && field.formula !== undefined) needRow(field.formula, fields, key);
      throw invalid([
        {
          pointer: '/formula',
          message: tell('computed.isCalculatedFromIt', { name: field.name, why: read.problem.message }),
        },
      ]);
    }
    const { type, lookup } = read.making;
    await layOut(client, dataset, fields, read.making);
    fields = fields.map((each) => (each.key === key ? { ...each, type } : each));
    await client.query(
      'UPDATE sorvik.fields SET formula = $3, type = $4, lookup = $5, profile = NULL WHERE dataset = $1 AND key = $2',
      [dataset.id, key, field.formula ?? null, type, lookup ?? null],
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
    await makeAgain(client, dataset, fields, keys);
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
  await makeAgain(
    client,
    dataset,
    fields,
    dependents(key, fields, fullEngine).map((each) => each.key),
  );
}

/** Refuses a type that a field which is computed from it, or looked up by it, could not work with. */
export async function checkRetype(
  { db, pool }: Database,
  dataset: StoredDataset,
  key: string,
  type: FieldType,
): Promise<void> {
  const fields = (await fieldsOf(db, dataset.id)).map(asRowField);
  const changed = fields.find((field) => field.key === key)!;
  if (!cameWithRows(changed)) throw new HttpProblem(409, 'computed-field', tell('computed.theTypeOfA'));
  await needKeysComparable(db, dataset.id, key, type);
  let now = fields.map((field) => (field.key === key ? { ...field, type } : field));
  for (const field of dependents(key, now, fullEngine)) {
    const read = await readMaking(pool, field, now);
    if (!read.ok)
      throw new HttpProblem(
        409,
        'used-by-a-formula',
        tell('computed.isCalculatedFromAnd', {
          name: field.name,
          from: changed.name,
          why: read.problem.message,
        }),
      );
    const { type } = read.making;
    now = now.map((each) => (each.key === field.key ? { ...each, type } : each));
  }
}

/** What names a field: computed fields, and boards that read the dataset. */
export async function fieldUses({ db }: Database, dataset: StoredDataset, key: string) {
  const fields = (await fieldsOf(db, dataset.id)).map(asRowField);
  const computed = fields.filter((field) => madeFrom(field, fields, fullEngine).includes(key));
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

/** Takes a field away that is computed or looked up, unless another one hangs on it. */
export async function dropComputed(database: Database, dataset: StoredDataset, key: string): Promise<void> {
  const field = (await fieldsOf(database.db, dataset.id)).find((each) => each.key === key)!;
  if (cameWithRows(field))
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
  await needNotLookedUp(database.db, dataset.id, [field]);
  await inOrder(database, async (client) => {
    await alone(client, dataset.id);
    for (const { table } of await tablesOf(client, dataset.number))
      await client.query(`ALTER TABLE ${table} DROP COLUMN IF EXISTS ${quoted(key)}`);
    await client.query('DELETE FROM sorvik.fields WHERE dataset = $1 AND key = $2', [dataset.id, key]);
    await grown(client, dataset);
  });
}
