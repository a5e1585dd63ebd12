import { basename, extname } from 'node:path';
import type { ImportSource, Reject } from '@sorvik/core/board/api-types';
import { idFrom } from '@sorvik/core/board/id';
import { inArray, like, or } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import type pg from 'pg';
import { ownedByAsker } from '../access/asking';
import type { Db } from '../db/client';
import * as schema from '../db/schema';
import { cutText } from '../http/well-formed';
import type { ColumnPlan } from './column-plan';
import type { Inspection } from './inspect';

const lockOfIds = 7302;
const separatorNames: Record<string, string> = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'bar' };

/** What is to be remembered of a file and of how it is written. */
export function sourceOf(
  file: string,
  { encoding, separator, notes, plans, format }: Inspection,
): ImportSource {
  const formats = plans.map(({ name, number, date }) => [name, { number, date }] as const);
  return {
    file,
    encoding,
    separator: separatorNames[separator] ?? separator,
    notes,
    ...(format === undefined ? {} : { format }),
    formats: Object.fromEntries(formats),
  };
}

/** Keeps what a file became, in the transaction in which its rows were loaded: the dataset, its fields, what was set aside. */
export async function keepDataset(
  client: pg.PoolClient,
  { id: importId, file, inspection }: { id: string; file: string; inspection: Inspection },
  number: number,
  keys: readonly string[],
  loaded: { rows: number; rejected: number; rejects: Reject[] },
): Promise<{ id: string; version: number }> {
  const db: Db = drizzle(client, { schema });
  const name = cutText(basename(file, extname(file)).trim(), 200) || 'Dataset';
  // Two files of one name that come in at once take turns in choosing their ids.
  await client.query('SELECT pg_advisory_xact_lock($1)', [lockOfIds]);
  const stem = idFrom(name, [], 'dataset');
  const taken = await db
    .select({ id: schema.datasets.id })
    .from(schema.datasets)
    .where(or(inArray(schema.datasets.id, [stem]), like(schema.datasets.id, `${stem}-%`)));
  const id = idFrom(
    name,
    taken.map((row) => row.id),
    'dataset',
  );
  const source = sourceOf(file, inspection);
  const version = Date.now();
  await db.insert(schema.datasets).values({
    id,
    number,
    name,
    version,
    shaped: version,
    rows: loaded.rows,
    places: loaded.rows,
    rejected: loaded.rejected,
    source,
    importId,
  });
  await ownedByAsker(db, 'dataset', id);
  await db.insert(schema.datasetVersions).values({
    dataset: id,
    seq: 1,
    kind: 'import',
    number,
    places: loaded.rows,
    rows: loaded.rows,
    rowsIn: loaded.rows,
    rejected: loaded.rejected,
    source,
  });
  await db
    .insert(schema.fields)
    .values(inspection.plans.map((plan, place) => fieldRow(id, keys[place]!, plan, place)));
  await insertRejects(db, id, loaded.rejects);
  return { id, version };
}

const fieldRow = (dataset: string, key: string, plan: ColumnPlan, place: number) => ({
  dataset,
  key,
  name: plan.name,
  type: plan.type,
  place,
});

export async function insertRejects(db: Db, dataset: string, rejects: Reject[]) {
  // PostgreSQL's JSON has no zero character; where one is the very reason, a visible sign stands for it.
  const clean = (text: string) => text.replaceAll('\0', '␀');
  for (let i = 0; i < rejects.length; i += 2000)
    await db.insert(schema.importRejects).values(
      rejects.slice(i, i + 2000).map((reject) => ({
        ...reject,
        dataset,
        reason: clean(reject.reason),
        cells: reject.cells.map(clean),
      })),
    );
}
