import type { DataVersion, DataVersionKind, ImportSource } from '@sorvik/core/board/api-types';
import { and, asc, eq } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import type pg from 'pg';
import { planLookups } from '../datasets/looked-up';
import { asField, type Field, fieldsOf, type StoredDataset } from '../datasets/store';
import { type Db, tableOf } from '../db/client';
import * as schema from '../db/schema';
import { datasetVersions } from '../db/schema';
import { notFound } from '../http/problem';
import { columnList, dropTables, goneColumn, hasPast, pastOf } from '../sources/postgres/row-table';
import { placeColumn } from '../sources/row-columns';

export type StoredVersion = typeof datasetVersions.$inferSelect;

/** Versions that are kept besides the last one of each month. */
export const usualVersionsKept = 5;

/** All versions of a dataset that are kept, oldest first. */
export const versionsOf = (db: Db, dataset: string): Promise<StoredVersion[]> =>
  db
    .select()
    .from(datasetVersions)
    .where(eq(datasetVersions.dataset, dataset))
    .orderBy(asc(datasetVersions.seq));

export async function findVersion(db: Db, dataset: string, seq: number): Promise<StoredVersion> {
  const [found] = await db
    .select()
    .from(datasetVersions)
    .where(and(eq(datasetVersions.dataset, dataset), eq(datasetVersions.seq, seq)));
  if (!found) throw notFound('version', String(seq));
  return found;
}

/** The versions of a dataset, newest first. */
export async function listVersions(db: Db, dataset: string): Promise<DataVersion[]> {
  const all = await versionsOf(db, dataset);
  return all
    .map(({ seq, at, kind, rows, rowsIn, rowsOut, rejected, source }, i) => ({
      seq,
      at: new Date(at).toISOString(),
      kind,
      rows,
      rowsIn,
      rowsOut,
      rejected,
      from: source.file,
      current: i === all.length - 1,
    }))
    .reverse();
}

/** What a change of the rows did. */
export interface Changed {
  kind: DataVersionKind;
  number: number;
  places: number;
  rows: number;
  rowsIn: number;
  rowsOut: number;
  rejected: number;
  source: ImportSource;
}

/** Whether only rows came or went, or what there is of a dataset has become something else. */
export interface Kept extends Changed {
  reshaped: boolean;
}

/** Rows that are pushed within an hour are one version. */
const extendPush = `UPDATE sorvik.dataset_versions SET at = now(), places = $3, rows = $4, rows_in = rows_in + $5, rows_out = rows_out + $6
  WHERE dataset = $1 AND seq = $2`;

/** The number of the version that pushed rows are of: that of those before, or the next one. */
export async function pushSeq(client: pg.ClientBase, dataset: string): Promise<number> {
  const { rows } = await client.query(
    `SELECT seq, kind = 'push' AND began > now() - interval '1 hour' AS goes_on FROM sorvik.dataset_versions
     WHERE dataset = $1 ORDER BY seq DESC LIMIT 1`,
    [dataset],
  );
  const [last] = rows;
  return last ? last.seq + (last.goes_on ? 0 : 1) : 1;
}

/** The number of the version that comes next. */
export async function nextSeq(client: pg.ClientBase, dataset: string): Promise<number> {
  const { rows } = await client.query(
    'SELECT coalesce(max(seq), 0) + 1 AS next FROM sorvik.dataset_versions WHERE dataset = $1',
    [dataset],
  );
  return rows[0].next;
}

/**
 * Keeps what has become of a dataset's rows, in the transaction in which they changed: whoever asked before asks again, what
 * is known of its fields is found out anew, and versions that are not kept any more go.
 */
export async function keepChange(
  client: pg.ClientBase,
  { id, number: before }: StoredDataset,
  seq: number,
  { reshaped, ...changed }: Kept,
  versionsKept: number,
): Promise<void> {
  const db: Db = drizzle(client as pg.PoolClient, { schema });
  const { number, places, rows, rejected, source, kind, rowsIn, rowsOut } = changed;
  const more =
    kind === 'push' ? await client.query(extendPush, [id, seq, places, rows, rowsIn, rowsOut]) : null;
  if (!more?.rowCount) await db.insert(datasetVersions).values({ dataset: id, seq, ...changed });
  await client.query(
    `UPDATE sorvik.datasets SET version = version + 1, shaped = CASE WHEN $7 THEN version + 1 ELSE shaped END,
       number = $2, places = $3, rows = $4, rejected = $5, source = $6
     WHERE id = $1`,
    [id, number, places, rows, rejected, source, reshaped || number !== before],
  );
  if (!more?.rowCount) await prune(client, id, versionsKept);
  await planLookups(client, id);
  if (number !== before) await client.query('DELETE FROM sorvik.staged WHERE number = $1', [number]);
}

/** Keeps the fields of a table that another one takes the place of, so that going back finds them. */
export async function keepFields(client: pg.ClientBase, { id, number }: StoredDataset): Promise<void> {
  const db: Db = drizzle(client as pg.PoolClient, { schema });
  const fields = await db.select().from(schema.fields).where(eq(schema.fields.dataset, id));
  await db
    .update(datasetVersions)
    .set({ fields: fields.map((field) => ({ ...field, profile: null })) })
    .where(and(eq(datasetVersions.dataset, id), eq(datasetVersions.number, number)));
}

/** Removes the versions that are not to be kept, and rows that were only in those. */
export async function prune(client: pg.ClientBase, dataset: string, versionsKept: number): Promise<void> {
  const gone = await client.query(
    `DELETE FROM sorvik.dataset_versions AS old USING (
       SELECT seq, row_number() OVER (ORDER BY seq DESC) AS newer,
         row_number() OVER (PARTITION BY date_trunc('month', at) ORDER BY seq DESC) AS in_month
       FROM sorvik.dataset_versions WHERE dataset = $1) AS ranked
     WHERE old.dataset = $1 AND old.seq = ranked.seq AND ranked.newer > $2 AND ranked.in_month > 1
     RETURNING old.number`,
    [dataset, versionsKept + 1],
  );
  const numbers = new Set(gone.rows.map(({ number }) => Number(number)));
  if (!numbers.size) return;
  const db: Db = drizzle(client as pg.PoolClient, { schema });
  const kept = await versionsOf(db, dataset);
  for (const number of numbers) {
    const mine = kept.filter((version) => version.number === number);
    if (!mine.length) await dropTables(client, number);
    else if (await hasPast(client, number))
      await client.query(
        `DELETE FROM ${pastOf(number)} WHERE NOT EXISTS (SELECT FROM unnest($1::integer[], $2::bigint[]) AS kept(seq, places)
         WHERE ${placeColumn} < kept.places AND ${goneColumn} > kept.seq)`,
        [mine.map(({ seq }) => seq), mine.map(({ places }) => places)],
      );
  }
}

/** The rows of a version as a query, with their places; those that have gone since among them. */
export async function rowsOfVersion(
  client: pg.ClientBase,
  { seq, number, places }: StoredVersion,
  keys: readonly string[],
): Promise<string> {
  const columns = [columnList(keys), placeColumn].filter(Boolean).join(', ');
  const present = `SELECT ${columns} FROM ${tableOf(number)} WHERE ${placeColumn} < ${places}`;
  return (await hasPast(client, number))
    ? `${present} UNION ALL SELECT ${columns} FROM ${pastOf(number)} WHERE ${placeColumn} < ${places} AND ${goneColumn} > ${seq}`
    : present;
}

/** The fields of a version: those that were kept with its table, or those of today. */
export const fieldsOfVersion = async (db: Db, { dataset, fields }: StoredVersion): Promise<Field[]> =>
  fields ? fields.toSorted((a, b) => a.place - b.place).map(asField) : fieldsOf(db, dataset);
