import type { Lookup, RowField } from '@sorvik/core/data/dataset';
import { type FieldType, isComparable } from '@sorvik/core/data/values';
import { english } from '@sorvik/core/messages/locale';
import { listed } from '@sorvik/core/words/plural';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import type pg from 'pg';
import { type Db, quoted, tableOf } from '../db/client';
import * as schema from '../db/schema';
import { HttpProblem } from '../http/problem';
import { tell } from '../tell';
import { heldStill } from './locked';
import type { ReadMaking } from './making';
import { type Field, fieldsOf, type StoredDataset } from './store';

/** Names that no field has, for the rows that are looked up. */
const lookedUp = { table: '"#looked"', key: '"#key"', value: '"#value"' };

/** The rows of a dataset by the values of a field, each value once: what stands twice is of no row in particular. */
const rowsByKey = (number: number, on: string, field: string): string =>
  `SELECT ${quoted(on)} AS ${lookedUp.key}, (array_agg(${quoted(field)}))[1] AS ${lookedUp.value}
   FROM ${tableOf(number)} WHERE ${quoted(on)} IS NOT NULL GROUP BY 1 HAVING count(*) = 1`;

/** How a looked-up field is made from the others of its row, while nobody changes where it is looked up; or why it cannot be. */
export async function readLookup(
  client: pg.ClientBase | pg.Pool,
  key: string,
  lookup: Lookup,
  fields: readonly RowField[],
): Promise<ReadMaking> {
  const bad = (message: string): ReadMaking => ({ ok: false, problem: { message } });
  const db: Db = drizzle(client as pg.PoolClient, { schema });
  const other = await heldStill(client, lookup.dataset);
  if (!other) return bad(tell('lookup.datasetIsGone'));
  const there = await fieldsOf(db, other.id);
  const on = there.find((each) => each.key === lookup.on);
  const field = there.find((each) => each.key === lookup.field);
  const from = fields.find((each) => each.key === lookup.from);
  if (!on || !field || !from)
    return bad(
      tell('lookup.fieldIsGone', {
        field: !on ? lookup.on : !field ? lookup.field : lookup.from,
        dataset: other.name,
      }),
    );
  if (!isComparable(from.type, on.type))
    return bad(
      tell('lookup.otherTypes', {
        from: from.name,
        a: from.type,
        on: on.name,
        b: on.type,
        dataset: other.name,
      }),
    );
  const join = `LEFT JOIN (${rowsByKey(other.number, lookup.on, lookup.field)}) AS ${lookedUp.table} ON ${lookedUp.key} = ${quoted(lookup.from)}`;
  return {
    ok: true,
    making: {
      key,
      type: field.type,
      sql: () => ({ value: lookedUp.value, join }),
      lookup: { ...lookup, version: other.version },
    },
  };
}

export interface LookedUpField {
  dataset: string;
  name: string;
  field: string;
  lookup: NonNullable<Field['lookup']>;
}

/** The fields of other datasets that are looked up in one. */
export async function lookedUpIn(db: Db, dataset: string): Promise<LookedUpField[]> {
  const { datasets, fields } = schema;
  const found = await db
    .select({ dataset: datasets.id, name: datasets.name, field: fields.name, lookup: fields.lookup })
    .from(fields)
    .innerJoin(datasets, eq(datasets.id, fields.dataset))
    .where(and(isNull(datasets.deletedAt), sql`${fields.lookup} ->> 'dataset' = ${dataset}`));
  return found.map((each) => ({ ...each, lookup: each.lookup! }));
}

/** What is looked up, as a list: "class of Sailings". */
const named = (list: readonly LookedUpField[]): string =>
  listed(
    list.map(({ field, name }) => tell('lookup.fieldOf', { field, dataset: name })),
    english,
  );

/** Why some fields cannot go: one of them is looked up by another dataset. Undefined where they can. */
export async function whyLookedUp(
  db: Db,
  dataset: string,
  going: readonly Pick<Field, 'key' | 'name'>[],
): Promise<string | undefined> {
  const uses = await lookedUpIn(db, dataset);
  for (const { key, name } of going) {
    const mine = uses.filter(({ lookup }) => lookup.on === key || lookup.field === key);
    if (mine.length) return tell('lookup.neededBy', { name, n: mine.length, by: named(mine) });
  }
  return undefined;
}

/** Throws 409 where one of some fields, which are to go, is looked up by another dataset. */
export async function needNotLookedUp(...asked: Parameters<typeof whyLookedUp>): Promise<void> {
  const why = await whyLookedUp(...asked);
  if (why !== undefined) throw new HttpProblem(409, 'looked-up', why);
}

/** Throws 409 where a dataset is looked up by another one. */
export async function needNobodyLooksUp(db: Db, { id, name }: StoredDataset): Promise<void> {
  const uses = await lookedUpIn(db, id);
  if (uses.length)
    throw new HttpProblem(
      409,
      'looked-up',
      tell('lookup.neededBy', { name, n: uses.length, by: named(uses) }),
    );
}

/** Throws 409 where a field by which others look up would be of a type that theirs is not comparable to. */
export async function needKeysComparable(
  db: Db,
  dataset: string,
  key: string,
  type: FieldType,
): Promise<void> {
  for (const use of await lookedUpIn(db, dataset)) {
    if (use.lookup.on !== key) continue;
    const from = (await fieldsOf(db, use.dataset)).find((field) => field.key === use.lookup.from);
    if (from && !isComparable(from.type, type))
      throw new HttpProblem(
        409,
        'looked-up',
        tell('lookup.keepsItsType', { by: named([use]), from: from.name, type: from.type }),
      );
  }
}

/** So long after a change the fields that are looked up are made anew, s: many changes at a time are one. */
const soon = 2;

/** Has the fields of other datasets that are looked up in one made anew soon. Part of the transaction that changes it. */
export async function planLookups(client: pg.ClientBase | pg.Pool, dataset: string): Promise<void> {
  const { rows } = await client.query(
    `SELECT DISTINCT dataset FROM sorvik.fields WHERE lookup ->> 'dataset' = $1`,
    [dataset],
  );
  for (const row of rows) await planLookUp(client, row.dataset);
}

export const lookUpTask = 'look_up';

/** Has the fields of a dataset that are looked up made anew soon. */
export const planLookUp = (client: pg.ClientBase | pg.Pool, dataset: string) =>
  client.query(
    `SELECT sorvik_jobs.add_job($1, json_build_object('dataset', $2::text), job_key := $1 || ':' || $2,
       job_key_mode := 'preserve_run_at', run_at := now() + $3 * interval '1 s', max_attempts := 6)`,
    [lookUpTask, dataset, soon],
  );
