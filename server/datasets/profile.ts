import type { FieldProfile } from '@sorvik/core/data/dataset';
import { grains } from '@sorvik/core/data/dimension';
import { isTemporal } from '@sorvik/core/data/values';
import { and, eq } from 'drizzle-orm';
import type pg from 'pg';
import { type Database, quoted, tableOf } from '../db/client';
import { fields } from '../db/schema';
import { cutText } from '../http/well-formed';
import { reading } from './locked';
import { type Field, fieldsOf, type StoredDataset } from './store';

/** The coarsest grain of which all dates of a column are the first days, as SQL. */
const grainSql = (column: string) =>
  `CASE ${grains
    .filter((grain) => grain !== 'day')
    .map((grain) => `WHEN bool_and(${column} = date_trunc('${grain}', ${column}::timestamp)) THEN '${grain}'`)
    .join(' ')} ELSE 'day' END`;

/** Whether a field has no profile, or one of before dates had grains. */
const lacksProfile = ({ profile, type }: Field) =>
  !profile || (isTemporal(type) && profile.grain === undefined);

/** What is known of a field over all its rows, computed. */
export async function profileField(
  client: pg.ClientBase,
  table: string,
  field: Field,
): Promise<FieldProfile> {
  const column = quoted(field.key);
  const ordered = field.type === 'boolean' ? `${column}::text` : column;
  const shown = isTemporal(field.type) ? '::text' : '';
  const totals = await client.query(
    `SELECT count(*) AS rows, count(${column}) AS count, (min(${ordered}))${shown} AS min, (max(${ordered}))${shown} AS max${isTemporal(field.type) ? `, ${grainSql(column)} AS grain` : ''} FROM ${table}`,
  );
  const distinct = await client.query(
    `SELECT count(*) AS n FROM (SELECT DISTINCT ${column} FROM ${table} WHERE ${column} IS NOT NULL) AS d`,
  );
  const { rows, count, min, max, grain } = totals.rows[0];
  const short = (value: unknown) =>
    typeof value === 'string' ? cutText(value, 200) : (value as number | null);
  const n = distinct.rows[0].n;
  return {
    count,
    missing: rows - count,
    distinct: n,
    min: short(min),
    max: short(max),
    // One date by itself tells nothing of how finely dates are taken.
    ...(isTemporal(field.type) ? { grain: n > 1 ? grain : 'day' } : {}),
  };
}

const underWay = new Map<string, Promise<void>>();

/** Computes and keeps the profiles that a dataset's fields still lack; asked twice at once, it is done once. */
export async function ensureProfiles(database: Database, stored: StoredDataset): Promise<void> {
  const known = await fieldsOf(database.db, stored.id);
  if (!known.some(lacksProfile)) return;
  const key = `${stored.id} ${stored.version}`;
  const running = underWay.get(key);
  if (running) return running;
  const one = (key: string) =>
    reading(
      database,
      stored.id,
      async ({ client, dataset, fields: now }) => {
        const field = now.find((each) => each.key === key);
        if (!field || !lacksProfile(field)) return;
        const profile = await profileField(client, tableOf(dataset.number), field);
        await database.db
          .update(fields)
          .set({ profile })
          .where(and(eq(fields.dataset, dataset.id), eq(fields.key, key), eq(fields.type, field.type)));
      },
      { slow: true },
    );
  const waiting = known.filter(lacksProfile).map((field) => field.key);
  const next = async (): Promise<void> => {
    const field = waiting.shift();
    if (field === undefined) return;
    await one(field);
    return next();
  };
  const work = Promise.all([next(), next(), next()])
    .then(() => {})
    .finally(() => underWay.delete(key));
  underWay.set(key, work);
  return work;
}
