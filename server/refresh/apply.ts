import type { RefreshMode } from '@sorvik/core/board/api-types';
import { cameWithRows } from '@sorvik/core/data/dataset';
import { eq } from 'drizzle-orm';
import type pg from 'pg';
import { asRowField, computeInto, inOrder } from '../datasets/computed';
import { alone, besideReaders } from '../datasets/locked';
import { needKeysComparable, needNotLookedUp } from '../datasets/looked-up';
import { type Field, fieldsOf, type StoredDataset } from '../datasets/store';
import { type Database, type Db, quoted, tableOf } from '../db/client';
import * as schema from '../db/schema';
import { HttpProblem } from '../http/problem';
import { insertRejects, sourceOf } from '../imports/keep-dataset';
import type { StagedRows } from '../imports/landing';
import { sqlTypes } from '../imports/load';
import {
  columnList,
  dropTables,
  ensurePast,
  type Grown,
  goneColumn,
  indexKey,
  indexNewPlaces,
  pastOf,
  tablesOf,
} from '../sources/postgres/row-table';
import { placeColumn } from '../sources/row-columns';
import { tell } from '../tell';
import { isNew } from './target-plans';
import {
  fieldsOfVersion,
  findVersion,
  type Kept,
  keepChange,
  keepFields,
  nextSeq,
  type StoredVersion,
  versionsOf,
} from './versions';

export interface Refreshed {
  /** Rows that came and went. */
  in: number;
  out: number;
}

/** Fields that are computed or looked up, each after those that it hangs on: they were made in this order. */
export const computedOf = (fields: readonly Field[]) => fields.filter((field) => !cameWithRows(field));

/** Sets the fields of a dataset to these. */
async function setFields(db: Db, dataset: string, list: readonly Field[]): Promise<void> {
  await db.delete(schema.fields).where(eq(schema.fields.dataset, dataset));
  await db.insert(schema.fields).values(
    list.map((field, place) => ({
      ...field,
      dataset,
      place,
      profile: null,
      formula: field.formula ?? null,
      lookup: field.lookup ?? null,
      column: null,
    })),
  );
}

/** Sets aside what did not fit, in place of what was before or besides it. */
async function keepRejects(
  db: Db,
  dataset: string,
  { rejects }: StagedRows,
  instead: boolean,
): Promise<void> {
  if (instead) await db.delete(schema.importRejects).where(eq(schema.importRejects.dataset, dataset));
  await insertRejects(db, dataset, rejects);
}

const fieldOf = (dataset: string, key: string, name: string, type: Field['type']): Field => ({
  dataset,
  key,
  name,
  type,
  place: 0,
  profile: null,
});

/** The fields of a dataset once a file has taken the place of its rows: those there are in their order, new ones behind. */
export function replacedFields(dataset: string, fields: readonly Field[], staged: StagedRows): Field[] {
  const columns = staged.inspection.plans.map((plan, i) => ({ key: staged.keys[i]!, plan }));
  const kept = fields.flatMap((field) => {
    if (!cameWithRows(field)) return [field];
    const column = columns.find(({ key }) => key === field.key);
    return column ? [{ ...field, type: column.plan.type }] : [];
  });
  const added = columns
    .filter(({ plan }) => isNew(fields, plan.name))
    .map(({ key, plan }) => fieldOf(dataset, key, plan.name, plan.type));
  return [...kept, ...added];
}

/** Computes fields for a table that has all others; gives the fields with the types that they have there. */
export async function computeAll(
  client: pg.ClientBase,
  number: number,
  fields: readonly Field[],
  computed: readonly Field[],
): Promise<Field[]> {
  let known = fields.filter(({ key }) => !computed.some((each) => each.key === key));
  for (const field of computed) {
    known = [...known, await computeInto(client, { number }, known.map(asRowField), field)];
  }
  // They stay in the order that they were in.
  return fields.map((field) => known.find(({ key }) => key === field.key)!);
}

async function replace(
  client: pg.ClientBase,
  db: Db,
  dataset: StoredDataset,
  staged: StagedRows,
  seq: number,
  versionsKept: number,
): Promise<Refreshed> {
  const fields = await fieldsOf(db, dataset.id);
  const missing = fields.filter((field) => cameWithRows(field) && !staged.keys.includes(field.key));
  await needNotLookedUp(db, dataset.id, missing);
  for (const [i, plan] of staged.inspection.plans.entries())
    await needKeysComparable(db, dataset.id, staged.keys[i]!, plan.type);
  await keepFields(client, dataset);
  const next = await computeAll(
    client,
    staged.number,
    replacedFields(dataset.id, fields, staged),
    computedOf(fields),
  );
  await setFields(db, dataset.id, next);
  await keepRejects(db, dataset.id, staged, true);
  const changed: Kept = {
    kind: 'replace',
    reshaped: true,
    number: staged.number,
    places: staged.rows,
    rows: staged.rows,
    rowsIn: staged.rows,
    rowsOut: dataset.rows,
    rejected: staged.rejected,
    source: sourceOf(staged.file, staged.inspection),
  };
  await keepChange(client, dataset, seq, changed, versionsKept);
  return { in: staged.rows, out: dataset.rows };
}

/** Adds the fields that a file has and the dataset does not; rows that are there have no value in them. */
async function addNewFields(
  client: pg.ClientBase,
  db: Db,
  dataset: StoredDataset,
  fields: readonly Field[],
  staged: StagedRows,
): Promise<Field[]> {
  const all = [...fields];
  for (const [i, plan] of staged.inspection.plans.entries()) {
    if (!isNew(fields, plan.name)) continue;
    const field = fieldOf(dataset.id, staged.keys[i]!, plan.name, plan.type);
    field.place = Math.max(-1, ...all.map(({ place }) => place)) + 1;
    for (const { table } of await tablesOf(client, dataset.number))
      await client.query(`ALTER TABLE ${table} ADD COLUMN ${quoted(field.key)} ${sqlTypes[field.type]}`);
    await db.insert(schema.fields).values({ ...field, formula: null, lookup: null, column: null });
    all.push(field);
  }
  return all;
}

/** Takes rows out of those of a dataset; `where` says which, of the table `kept`. They are kept, with the version that they went in. */
export async function takeOut(
  client: pg.ClientBase,
  dataset: Pick<StoredDataset, 'number'>,
  { keys, seq }: { keys: readonly string[]; seq: number },
  where: string,
  values: unknown[] = [],
): Promise<number> {
  await ensurePast(client, dataset.number);
  const columns = [columnList(keys), placeColumn].filter(Boolean).join(', ');
  const { rows } = await client.query(
    `WITH gone AS (DELETE FROM ${tableOf(dataset.number)} AS kept WHERE ${where} RETURNING ${columns}),
       noted AS (INSERT INTO ${pastOf(dataset.number)} (${columns}, ${goneColumn}) SELECT *, ${seq} FROM gone)
     SELECT count(*) AS n FROM gone`,
    values,
  );
  return rows[0].n;
}

/** Rows of a file come to those of a dataset; with `by`, rows with the same value of that field go first. */
async function add(
  client: pg.ClientBase,
  db: Db,
  dataset: StoredDataset,
  staged: StagedRows,
  by: string | undefined,
  seq: number,
  versionsKept: number,
): Promise<Refreshed> {
  const before = await fieldsOf(db, dataset.id);
  const fields = await addNewFields(client, db, dataset, before, staged);
  const incoming = tableOf(staged.number);
  const computed = computedOf(fields);
  const absent = fields.filter((field) => cameWithRows(field) && !staged.keys.includes(field.key));
  for (const { key, type } of absent)
    await client.query(`ALTER TABLE ${incoming} ADD COLUMN ${quoted(key)} ${sqlTypes[type]}`);
  await computeAll(client, staged.number, fields, computed);
  const keys = fields.map(({ key }) => key);
  let out = 0;
  if (by !== undefined) {
    await indexKey(client, dataset.number, by);
    const sameKey = `kept.${quoted(by)} IN (SELECT ${quoted(by)} FROM ${incoming})`;
    out = await takeOut(client, dataset, { keys, seq }, sameKey);
  }
  const columns = columnList(keys);
  // A row without a key would never be replaced.
  const named = by === undefined ? '' : ` WHERE ${quoted(by)} IS NOT NULL`;
  const added = await client.query(
    `INSERT INTO ${tableOf(dataset.number)} (${columns}, ${placeColumn})
     SELECT ${columns}, ${dataset.places} + row_number() OVER (ORDER BY ${placeColumn}) - 1 FROM ${incoming}${named}`,
  );
  const rowsIn = added.rowCount ?? 0;
  await dropTables(client, staged.number);
  await client.query('DELETE FROM sorvik.staged WHERE number = $1', [staged.number]);
  await keepRejects(db, dataset.id, staged, false);
  await client.query(`ALTER TABLE ${tableOf(dataset.number)} RESET (autovacuum_enabled)`);
  const changed: Kept = {
    kind: by === undefined ? 'append' : 'merge',
    reshaped: fields.length > before.length,
    number: dataset.number,
    places: dataset.places + rowsIn,
    rows: dataset.rows - out + rowsIn,
    rowsIn,
    rowsOut: out,
    rejected: dataset.rejected + staged.rejected,
    source: {
      ...sourceOf(staged.file, staged.inspection),
      formats: { ...dataset.source.formats, ...sourceOf(staged.file, staged.inspection).formats },
    },
  };
  await keepChange(client, dataset, seq, changed, versionsKept);
  return { in: rowsIn, out };
}

/**
 * Makes rows that wait those of a dataset, in one transaction: all of them, or nothing has changed. Throws 409 where a field
 * cannot be computed of them, or has become another one since they were read.
 */
export async function refresh(
  database: Database,
  id: string,
  { mode, by, ...staged }: StagedRows & { mode: RefreshMode; by: string | undefined },
  versionsKept: number,
): Promise<Refreshed> {
  let grown: Grown | null = null;
  const refreshed = await inOrder(database, async (client, db) => {
    // While rows are added, others read those that are there.
    const dataset = mode === 'replace' ? await alone(client, id) : await besideReaders(client, id);
    const fields = await fieldsOf(db, id);
    if (mode !== 'replace')
      for (const [i, plan] of staged.inspection.plans.entries()) {
        const field = fields.find(({ key }) => key === staged.keys[i]);
        if (field && field.type !== plan.type)
          throw new HttpProblem(
            409,
            'edit-conflict',
            tell('refresh.hasAnotherTypeNow', { field: field.name }),
          );
      }
    const seq = await nextSeq(client, id);
    if (mode === 'replace') return replace(client, db, dataset, staged, seq, versionsKept);
    const done = await add(client, db, dataset, staged, mode === 'merge' ? by : undefined, seq, versionsKept);
    grown = { number: dataset.number, before: dataset.places, after: dataset.places + done.in };
    return done;
  });
  const added = grown as Grown | null;
  if (added) void indexNewPlaces(database.pool, added);
  return refreshed;
}

/** Brings the rows of one table back to what they were in a version. */
async function backIn(
  client: pg.ClientBase,
  dataset: Pick<StoredDataset, 'number' | 'places'>,
  keys: readonly string[],
  version: StoredVersion,
  seq: number,
): Promise<Refreshed> {
  const { number, places } = dataset;
  const out = await takeOut(client, dataset, { keys, seq }, `kept.${placeColumn} >= ${version.places}`);
  const columns = columnList(keys);
  const back = await client.query(
    `INSERT INTO ${tableOf(number)} (${columns}, ${placeColumn})
     SELECT ${columns}, ${places} + row_number() OVER (ORDER BY ${placeColumn}) - 1 FROM ${pastOf(number)}
     WHERE ${placeColumn} < ${version.places} AND ${goneColumn} > ${version.seq} AND ${goneColumn} < ${seq}`,
  );
  return { in: back.rowCount ?? 0, out };
}

/** Fields of an earlier table as they are called today, with the computed ones of today. */
function fieldsBack(then: readonly Field[], now: readonly Field[]): Field[] {
  const nameOf = new Map(now.map(({ key, name }) => [key, name]));
  const computed = computedOf(now);
  const plain = then.filter(cameWithRows);
  const taken = new Set(computed.map(({ name }) => name.toLowerCase()));
  return [
    ...plain.map((field) => {
      const name = nameOf.get(field.key) ?? field.name;
      return { ...field, name: taken.has(name.toLowerCase()) ? field.name : name };
    }),
    ...computed,
  ];
}

/** Brings a dataset back to a version, as a version of its own: what came after it is not lost. */
export async function goBack(
  database: Database,
  id: string,
  to: number,
  versionsKept: number,
): Promise<Refreshed> {
  return inOrder(database, async (client, db) => {
    const dataset = await alone(client, id);
    const version = await findVersion(db, id, to);
    const seq = await nextSeq(client, id);
    const now = await fieldsOf(db, id);
    const elsewhere = version.number !== dataset.number;
    let target: Pick<StoredDataset, 'number' | 'places'> = dataset;
    let fields = now;
    let rows = dataset.rows;
    if (elsewhere) {
      await keepFields(client, dataset);
      const then = await fieldsOfVersion(db, version);
      fields = fieldsBack(then, now);
      // Columns that nobody computes any more, or that are computed anew.
      for (const { key } of computedOf(then))
        for (const { table } of await tablesOf(client, version.number))
          await client.query(`ALTER TABLE ${table} DROP COLUMN IF EXISTS ${quoted(key)}`);
      fields = await computeAll(client, version.number, fields, computedOf(now));
      await setFields(db, id, fields);
      const inTable = (await versionsOf(db, id)).filter(({ number }) => number === version.number);
      const last = inTable.at(-1)!;
      target = last;
      rows = last.rows;
      // From here on its fields are those of the dataset again.
      await client.query(
        'UPDATE sorvik.dataset_versions SET fields = NULL WHERE dataset = $1 AND number = $2',
        [id, version.number],
      );
    }
    const moved = await backIn(
      client,
      target,
      fields.map(({ key }) => key),
      version,
      seq,
    );
    rows += moved.in - moved.out;
    if (rows !== version.rows)
      throw new Error(`${id}: ${rows} rows of version ${to} are there, not ${version.rows}.`);
    const changed: Kept = {
      kind: 'back',
      reshaped: elsewhere,
      number: version.number,
      places: target.places + moved.in,
      rows,
      rowsIn: elsewhere ? rows : moved.in,
      rowsOut: elsewhere ? dataset.rows : moved.out,
      rejected: version.rejected,
      source: version.source,
    };
    await keepChange(client, dataset, seq, changed, versionsKept);
    return { in: changed.rowsIn, out: changed.rowsOut };
  });
}
