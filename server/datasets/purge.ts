import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { DeletedDataset } from '@sorvik/core/board/api-types';
import { eq, inArray, sql } from 'drizzle-orm';
import { atOnce, type Database, type Db, tableOf } from '../db/client';
import { boards, datasets, datasetVersions } from '../db/schema';
import { HttpProblem, notFound } from '../http/problem';
import { pastOf, readyTable } from '../sources/postgres/row-table';
import { tell } from '../tell';

/** Drops the tables of a dataset: those of all its versions. */
async function dropRows(tx: Db, id: string, current: number): Promise<void> {
  const versions = await tx
    .select({ number: datasetVersions.number })
    .from(datasetVersions)
    .where(eq(datasetVersions.dataset, id));
  for (const number of new Set([current, ...versions.map(({ number }) => number)]))
    await tx.execute(sql.raw(`DROP TABLE IF EXISTS ${tableOf(number)}, ${pastOf(number)}`));
}

/** Removes for good what was deleted more than 30 days ago. */
export async function purgeDeleted({ db }: Database): Promise<void> {
  await atOnce(db, async (tx) => {
    const old = await tx
      .select({ id: datasets.id, number: datasets.number })
      .from(datasets)
      .where(sql`${datasets.deletedAt} < now() - interval '30 days'`);
    for (const { id, number } of old) await dropRows(tx, id, number);
    if (old.length)
      await tx.delete(datasets).where(
        inArray(
          datasets.id,
          old.map(({ id }) => id),
        ),
      );
    await tx.delete(boards).where(sql`${boards.deletedAt} < now() - interval '30 days'`);
  });
}

/** Tables of rows that belong to no dataset: a server was killed between making and naming them. */
async function dropOrphans({ pool }: Database): Promise<string[]> {
  // What was sent and is neither taken nor given up after a day is not waited for.
  await pool.query(`DELETE FROM sorvik.staged WHERE at < now() - interval '1 day'`);
  const { rows } = await pool.query(
    `WITH known AS (SELECT number FROM sorvik.datasets UNION SELECT number FROM sorvik.dataset_versions UNION SELECT number FROM sorvik.staged)
     SELECT tablename FROM pg_tables WHERE schemaname = 'data' AND tablename ~ '^d_[0-9]+(_past)?(_next)?$'
     AND NOT EXISTS (SELECT FROM known WHERE tablename IN ('d_' || number, 'd_' || number || '_past'))`,
  );
  const names = rows.map(({ tablename }) => String(tablename));
  for (const name of names) await pool.query(`DROP TABLE IF EXISTS data."${name}"`);
  return names;
}

/** Files that wait for nothing any more. */
async function removeLeftFiles(folder: string, olderThan: number, inUse: ReadonlySet<string>): Promise<void> {
  for (const name of await readdir(folder).catch(() => [])) {
    const path = join(folder, name);
    const found = await stat(path).catch(() => null);
    if (found && !inUse.has(name) && Date.now() - found.mtimeMs > olderThan)
      await rm(path, { recursive: true, force: true });
  }
}

/** Readies tables that are not yet: a server was killed just after it had filled them. */
async function readyNew({ pool }: Database): Promise<void> {
  const { rows } = await pool.query(
    `SELECT c.relname AS name FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
     WHERE n.nspname = 'data' AND c.relkind = 'r' AND c.relname ~ '^d_[0-9]+$'
     AND NOT EXISTS (SELECT FROM pg_index i JOIN pg_class x ON x.oid = i.indexrelid JOIN pg_am a ON a.oid = x.relam
       WHERE i.indrelid = c.oid AND a.amname = 'brin')`,
  );
  for (const { name } of rows) await readyTable(pool, `data.${name}`);
}

const hour = 3_600_000;

/** Puts away what nobody needs any more: at the start of a server, and every hour. */
export async function sweep(database: Database, spool: string, inUse: ReadonlySet<string>): Promise<void> {
  await purgeDeleted(database);
  await dropOrphans(database);
  await readyNew(database);
  // Whoever pushes again after a day means it.
  await database.pool.query(`DELETE FROM sorvik.push_keys WHERE at < now() - interval '1 day'`);
  await removeLeftFiles(spool, hour, inUse);
}

/** Datasets that were deleted and are still there, the last one first. */
export async function deletedDatasets({ pool }: Database): Promise<DeletedDataset[]> {
  const { rows } = await pool.query(
    `SELECT id, name, rows, deleted_at, coalesce((SELECT sum(coalesce(pg_total_relation_size(to_regclass('data.d_' || t.number)), 0) + coalesce(pg_total_relation_size(to_regclass('data.d_' || t.number || '_past')), 0))
       FROM (SELECT datasets.number UNION SELECT number FROM sorvik.dataset_versions WHERE dataset = datasets.id) AS t), 0) AS bytes
     FROM sorvik.datasets WHERE deleted_at > 'epoch' ORDER BY deleted_at DESC`,
  );
  return rows.map(({ id, name, rows: count, deleted_at, bytes }) => ({
    id,
    name,
    rows: count,
    deletedAt: new Date(deleted_at).toISOString(),
    bytes,
  }));
}

/** Removes a deleted dataset for good. */
export async function freeDataset({ db }: Database, id: string): Promise<void> {
  await atOnce(db, async (tx) => {
    const [found] = await tx.select().from(datasets).where(eq(datasets.id, id)).for('update');
    if (!found) throw notFound('dataset', id);
    if (found.deletedAt === null)
      throw new HttpProblem(409, 'not-deleted', tell('purge.isInUseDelete', { found: found.name }));
    await dropRows(tx, id, found.number);
    await tx.delete(datasets).where(eq(datasets.id, id));
  });
}
