import type { DatasetView } from '@sorvik/core/board/api-types';
import type { DatasetInfo, Lookup } from '@sorvik/core/data/dataset';
import { and, asc, count, eq, inArray, isNull, max, sql } from 'drizzle-orm';
import type { Db } from '../db/client';
import {
  boards,
  connections,
  datasets,
  datasetVersions,
  fields,
  type Profiled,
  type RemoteColumn,
} from '../db/schema';
import { notFound } from '../http/problem';
import { findSchedule, viewSchedule } from '../refresh/schedule';

export type StoredDataset = typeof datasets.$inferSelect;

export async function findDataset(db: Db, id: string): Promise<StoredDataset> {
  const [found] = await db
    .select()
    .from(datasets)
    .where(and(eq(datasets.id, id), isNull(datasets.deletedAt)));
  if (!found) throw notFound('dataset', id);
  return found;
}

/** A field as it is kept; `formula` only where it is computed, `lookup` where it is looked up, `column` of a table in place. */
export type Field = Omit<typeof fields.$inferSelect, 'formula' | 'lookup' | 'column' | 'profiled'> & {
  profiled?: Profiled;
  formula?: string;
  lookup?: Lookup & { version: number };
  column?: RemoteColumn;
};

/** A field as it is kept, without what it does not have. */
export const asField = ({
  formula,
  lookup,
  column,
  profiled,
  ...field
}: typeof fields.$inferSelect): Field => ({
  ...field,
  ...(profiled === null ? {} : { profiled }),
  ...(formula === null ? {} : { formula }),
  // Versions from before there were look-ups know nothing of them.
  ...(lookup ? { lookup } : {}),
  ...(column === null ? {} : { column }),
});

/** A look-up as it is told: without what only the server needs to know. */
export const asLookup = ({ version: _version, ...lookup }: Lookup & { version: number }): Lookup => lookup;

export async function fieldsOf(db: Db, dataset: string): Promise<Field[]> {
  const list = await db.select().from(fields).where(eq(fields.dataset, dataset)).orderBy(asc(fields.place));
  return list.map(asField);
}

export async function findField(db: Db, dataset: string, key: string) {
  const found = (await fieldsOf(db, dataset)).find((field) => field.key === key);
  if (!found) throw notFound('field', key);
  return found;
}

/** Datasets with their fields: all, or those of some ids. */
export async function datasetInfos(db: Db, ids?: readonly string[]): Promise<DatasetInfo[]> {
  const all = await db
    .select()
    .from(datasets)
    .where(and(isNull(datasets.deletedAt), ids && inArray(datasets.id, [...ids])));
  return Promise.all(
    all.map(async ({ id, name, version, rows }) => ({
      id,
      name,
      version,
      rows,
      fields: (await fieldsOf(db, id)).map(({ profiled: _profiled, lookup, ...field }) => ({
        ...field,
        ...(lookup ? { lookup: asLookup(lookup) } : {}),
      })),
    })),
  );
}

/** The boards that read a dataset, in a chart or in a lever. */
async function boardsReading(db: Db, dataset: string) {
  const chart = JSON.stringify({ charts: [{ dataset }] });
  const lever = JSON.stringify({ levers: [{ dataset }] });
  return db
    .select({ id: boards.id, title: sql<string>`${boards.document} ->> 'title'` })
    .from(boards)
    .where(
      and(
        isNull(boards.deletedAt),
        sql`(${boards.document} @> ${chart}::jsonb OR ${boards.document} @> ${lever}::jsonb)`,
      ),
    );
}

/** Where the rows of a dataset are that is a name for a table in place. */
async function placeOf(db: Db, { connection, source }: StoredDataset): Promise<Pick<DatasetView, 'inPlace'>> {
  if (connection === null) return {};
  const [found] = await db
    .select({ name: connections.name })
    .from(connections)
    .where(eq(connections.id, connection));
  return { inPlace: { connection, name: found!.name, table: source.file } };
}

/** Whether a profile is of the rows that a dataset has now. */
export const isOf = ({ shaped, places, rows }: StoredDataset, profiled: Profiled | undefined): boolean =>
  profiled?.shaped === shaped && profiled.places === places && profiled.rows === rows;

/** When the rows of a dataset last came, how often they have, and how they come by themselves. */
async function freshnessOf(db: Db, { id }: StoredDataset): Promise<Pick<DatasetView, 'data' | 'schedule'>> {
  const [found] = await db
    .select({ at: max(datasetVersions.at), versions: count() })
    .from(datasetVersions)
    .where(eq(datasetVersions.dataset, id));
  const schedule = await findSchedule(db, id);
  return {
    ...(found?.at ? { data: { at: new Date(found.at).toISOString(), versions: found.versions } } : {}),
    ...(schedule ? { schedule: viewSchedule(schedule) } : {}),
  };
}

/** A dataset as it is shown; where `recent` profiles will do, they may be of before the last rows came or went. */
export async function viewDataset(
  db: Db,
  stored: StoredDataset,
  { recent = false } = {},
): Promise<DatasetView> {
  const { id, name, version, rows, rejected, createdAt, source } = stored;
  const list = await fieldsOf(db, id);
  const isExact = ({ profiled }: Field) => isOf(stored, profiled);
  const isRecent = ({ profiled }: Field) => recent && profiled?.shaped === stored.shaped;
  return {
    id,
    name,
    version,
    rows,
    rejected,
    createdAt,
    source,
    ...(recent && !list.every(isExact) ? { behind: true as const } : {}),
    fields: list.map((field) => {
      const { key, name, type, profile, formula, lookup } = field;
      return {
        key,
        name,
        type,
        // What was known before rows came or went is not said of those there are now.
        profile: isExact(field) || isRecent(field) ? profile : null,
        ...(formula === undefined ? {} : { formula }),
        ...(lookup === undefined ? {} : { lookup: asLookup(lookup) }),
      };
    }),
    boards: await boardsReading(db, id),
    ...(await freshnessOf(db, stored)),
    ...(await placeOf(db, stored)),
  };
}
