import type { LookupPreview } from '@sorvik/core/board/api-types';
import type { Lookup } from '@sorvik/core/data/dataset';
import { dependents } from '@sorvik/core/data/row-formula';
import { isComparable } from '@sorvik/core/data/values';
import { fullEngine } from '@sorvik/formula/full-engine';
import { and, eq } from 'drizzle-orm';
import type pg from 'pg';
import { type Database, type Db, quoted, tableOf } from '../db/client';
import * as schema from '../db/schema';
import { HttpProblem, invalid } from '../http/problem';
import { cutText } from '../http/well-formed';
import { fieldKeys } from '../imports/field-keys';
import { tell } from '../tell';
import { asRowField, grown, inOrder, makeAgain, mostFields, roomToLayOut } from './computed';
import { layOut } from './lay-out';
import { alone, heldStill, needOwnRows } from './locked';
import { readLookup } from './looked-up';
import type { Making } from './making';
import { asLookup, type Field, fieldsOf, findDataset, type StoredDataset } from './store';

/** So many values are told that are in no row, or in several. */
const mostExamples = 8;

/** Where rows are looked up: the field that says which, and the one of the other dataset that has the same values. */
export type LookupKeys = Pick<Lookup, 'dataset' | 'on' | 'from'>;

interface Checked {
  dataset: StoredDataset;
  fields: Field[];
  other: StoredDataset;
  there: Field[];
}

/** Whether a way of look-ups leads from one dataset to another. */
async function leadsTo(client: pg.ClientBase, from: string, to: string): Promise<boolean> {
  const { rows } = await client.query(
    `WITH RECURSIVE way(id) AS (SELECT $1::text UNION SELECT lookup ->> 'dataset' FROM sorvik.fields JOIN way ON dataset = id WHERE lookup IS NOT NULL)
     SELECT EXISTS (SELECT FROM way WHERE id = $2) AS there`,
    [from, to],
  );
  return rows[0].there;
}

/** The two datasets and their fields, both held still. Throws where rows of one cannot be looked up in the other. */
async function checked(
  client: pg.ClientBase,
  db: Db,
  id: string,
  { dataset: otherId, on, from }: LookupKeys,
): Promise<Checked> {
  needOwnRows(await findDataset(db, id));
  const dataset = (await heldStill(client, id))!;
  if (otherId === id) throw invalid([{ pointer: '/dataset', message: tell('lookup.itself') }]);
  needOwnRows(await findDataset(db, otherId));
  const other = (await heldStill(client, otherId))!;
  if (await leadsTo(client, otherId, id))
    throw invalid([
      {
        pointer: '/dataset',
        message: tell('lookup.goesRound', { other: other.name, dataset: dataset.name }),
      },
    ]);
  const fields = await fieldsOf(db, id);
  const there = await fieldsOf(db, otherId);
  const mine = fields.find(({ key }) => key === from);
  const its = there.find(({ key }) => key === on);
  if (!mine) throw noField('/from', from, dataset);
  if (!its) throw noField('/on', on, other);
  if (!isComparable(mine.type, its.type))
    throw invalid([
      {
        pointer: '/on',
        message: tell('lookup.otherTypes', {
          from: mine.name,
          a: mine.type,
          on: its.name,
          b: its.type,
          dataset: other.name,
        }),
      },
    ]);
  return { dataset, fields, other, there };
}

const noField = (pointer: string, field: string, { name }: StoredDataset) =>
  invalid([{ pointer, message: tell('lookup.noSuchField', { field, dataset: name }) }]);

/** Values of a key that stand in more than one row of a dataset. */
async function valuesTwice(client: pg.ClientBase, { number }: StoredDataset, on: string) {
  const { rows } = await client.query(
    `SELECT ${quoted(on)}::text AS value, count(*) OVER () AS n FROM ${tableOf(number)} WHERE ${quoted(on)} IS NOT NULL
     GROUP BY ${quoted(on)} HAVING count(*) > 1 ORDER BY count(*) DESC, 1 LIMIT ${mostExamples}`,
  );
  return { count: Number(rows[0]?.n ?? 0), examples: rows.map(({ value }) => cutText(value, 100)) };
}

/** How many rows would find one in the other dataset; values that are there in no row, or in several. Changes nothing. */
export const previewLookup = (database: Database, id: string, keys: LookupKeys): Promise<LookupPreview> =>
  inOrder(database, async (client, db) => {
    const { dataset, other } = await checked(client, db, id, keys);
    const [mine, on] = [quoted(keys.from), quoted(keys.on)];
    const { rows } = await client.query(
      `WITH mine AS (SELECT ${mine} AS value, count(*) AS n FROM ${tableOf(dataset.number)} GROUP BY 1),
         absent AS (SELECT value, n FROM mine WHERE value IS NOT NULL AND NOT EXISTS (SELECT FROM ${tableOf(other.number)} AS its WHERE its.${on} = mine.value))
       SELECT coalesce(sum(n), 0) AS rows, coalesce(sum(n) FILTER (WHERE value IS NULL), 0) AS empty,
         (SELECT coalesce(sum(n), 0) FROM absent) AS unmatched, (SELECT count(*) FROM absent) AS values,
         ARRAY(SELECT value::text FROM absent ORDER BY n DESC, 1 LIMIT ${mostExamples}) AS examples
       FROM mine`,
    );
    const { rows: all, empty, unmatched, values, examples } = rows[0];
    return {
      rows: { matched: all - empty - unmatched, unmatched, empty },
      unmatched: { count: values, examples: examples.map((text: string) => cutText(text, 100)) },
      doubled: await valuesTwice(client, other, keys.on),
    };
  });

/** Adds fields to a dataset whose values another one has. Throws 409 where a row could be one of several there. */
export async function addLookups(
  database: Database,
  id: string,
  { fields: wanted, ...keys }: LookupKeys & { fields: readonly { field: string; name: string }[] },
): Promise<void> {
  await inOrder(database, async (client, db) => {
    await alone(client, id);
    const { dataset, fields, other, there } = await checked(client, db, id, keys);
    if (fields.length + wanted.length > mostFields)
      throw invalid([{ pointer: '/fields', message: tell('computed.aDatasetHasUp', { most: mostFields }) }]);
    const doubled = await valuesTwice(client, other, keys.on);
    if (doubled.count)
      throw new HttpProblem(
        409,
        'values-twice',
        tell('lookup.valuesTwice', {
          n: doubled.count,
          on: there.find(({ key }) => key === keys.on)!.name,
          values: doubled.examples.join(', '),
        }),
      );
    await roomToLayOut(database, client, dataset, wanted.length);
    let known = fields.map(asRowField);
    const taken = new Set(known.map(({ name }) => name.toLowerCase()));
    for (const [i, { field, name: given }] of wanted.entries()) {
      const name = given.trim();
      if (!there.some(({ key }) => key === field)) throw noField(`/fields/${i}/field`, field, other);
      if (taken.has(name.toLowerCase()))
        throw invalid([{ pointer: `/fields/${i}/name`, message: tell('computed.thereIsAField', { name }) }]);
      taken.add(name.toLowerCase());
      const key = fieldKeys([...known.map((each) => each.key), name]).at(-1)!;
      const read = await readLookup(client, key, { ...keys, field }, known);
      if (!read.ok) throw new HttpProblem(409, 'edit-conflict', read.problem.message);
      const { type, lookup } = read.making;
      await layOut(client, dataset, known, read.making);
      await client.query(
        `INSERT INTO sorvik.fields (dataset, key, name, type, place, lookup)
         VALUES ($1, $2, $3, $4, (SELECT max(place) + 1 FROM sorvik.fields WHERE dataset = $1), $5)`,
        [id, key, name, type, lookup],
      );
      known = [...known, { key, name, type, lookup: asLookup(lookup!) }];
    }
    await grown(client, dataset);
  });
}

/** Whether a column is other than what it would be made of now. */
async function isOther(
  client: pg.ClientBase,
  { number }: StoredDataset,
  field: Field,
  { type, sql }: Making,
): Promise<boolean> {
  if (type !== field.type) return true;
  const { value, join = '' } = sql([], false);
  const { rows } = await client.query(
    `SELECT EXISTS (SELECT FROM ${tableOf(number)} ${join} WHERE ${quoted(field.key)} IS DISTINCT FROM ${value}) AS there`,
  );
  return rows[0].there;
}

/** The fields of a dataset that are looked up and are not what they would be now; the others are noted as being so. */
async function outdated(client: pg.ClientBase, db: Db, dataset: StoredDataset): Promise<string[]> {
  const fields = await fieldsOf(db, dataset.id);
  const known = fields.map(asRowField);
  const found: string[] = [];
  for (const field of fields) {
    if (!field.lookup) continue;
    const read = await readLookup(client, field.key, asLookup(field.lookup), known);
    // What it was looked up in is gone: its values stay.
    if (!read.ok || read.making.lookup!.version === field.lookup.version) continue;
    if (await isOther(client, dataset, field, read.making)) found.push(field.key);
    else
      await db
        .update(schema.fields)
        .set({ lookup: read.making.lookup! })
        .where(and(eq(schema.fields.dataset, dataset.id), eq(schema.fields.key, field.key)));
  }
  return found;
}

/**
 * Looks up again what is not as it is there now, and computes what hangs on it. Whoever reads rows waits only where there is
 * something to change.
 */
export async function lookUpAgain(database: Database, id: string): Promise<void> {
  const due = await inOrder(database, async (client, db) => {
    const dataset = await heldStill(client, id);
    return dataset ? outdated(client, db, dataset) : [];
  });
  if (!due.length) return;
  await inOrder(database, async (client, db) => {
    const dataset = await alone(client, id);
    const keys = await outdated(client, db, dataset);
    if (!keys.length) return;
    const fields = (await fieldsOf(db, id)).map(asRowField);
    const hanging = keys.flatMap((key) => dependents(key, fields, fullEngine).map((each) => each.key));
    // What hangs on two of them comes after both.
    const all = [...new Set([...keys, ...hanging].reverse())].reverse();
    await roomToLayOut(database, client, dataset, all.length);
    await makeAgain(client, dataset, fields, all);
    await grown(client, dataset);
  });
}

/** Datasets with fields that were looked up in an earlier version of another one. */
export async function dueLookUps({ pool }: Database): Promise<string[]> {
  const { rows } = await pool.query(
    `SELECT DISTINCT fields.dataset FROM sorvik.fields JOIN sorvik.datasets AS other ON other.id = lookup ->> 'dataset'
       JOIN sorvik.datasets AS own ON own.id = fields.dataset
     WHERE other.version <> (lookup ->> 'version')::bigint AND other.deleted_at IS NULL AND own.deleted_at IS NULL`,
  );
  return rows.map(({ dataset }) => dataset);
}
