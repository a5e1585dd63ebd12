import type { FieldProfile } from '@sorvik/core/dataset';
import { grains } from '@sorvik/core/grain';
import { isTemporal } from '@sorvik/core/values';
import { and, eq } from 'drizzle-orm';
import type pg from 'pg';
import { type Database, quoted, tableOf } from '../db/client';
import { fields } from '../db/schema';
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

async function profileField(pool: pg.Pool, table: string, field: Field): Promise<FieldProfile> {
  const column = quoted(field.key);
  const ordered = field.type === 'boolean' ? `${column}::text` : column;
  const shown = isTemporal(field.type) ? '::text' : '';
  const totals = await pool.query(
    `SELECT count(*) AS rows, count(${column}) AS count, (min(${ordered}))${shown} AS min, (max(${ordered}))${shown} AS max${isTemporal(field.type) ? `, ${grainSql(column)} AS grain` : ''} FROM ${table}`,
  );
  const distinct = await pool.query(
    `SELECT count(*) AS n FROM (SELECT DISTINCT ${column} FROM ${table} WHERE ${column} IS NOT NULL) AS d`,
  );
  const { rows, count, min, max, grain } = totals.rows[0];
  const short = (value: unknown) =>
    typeof value === 'string' ? value.slice(0, 200) : (value as number | null);
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
export async function ensureProfiles({ db, pool }: Database, dataset: StoredDataset): Promise<void> {
  const key = `${dataset.id} ${dataset.version}`;
  const running = underWay.get(key);
  if (running) return running;
  const work = (async () => {
    const waiting = (await fieldsOf(db, dataset.id)).filter(lacksProfile);
    const next = async (): Promise<void> => {
      const field = waiting.shift();
      if (!field) return;
      const profile = await profileField(pool, tableOf(dataset.number), field);
      await db
        .update(fields)
        .set({ profile })
        .where(and(eq(fields.dataset, dataset.id), eq(fields.key, field.key), eq(fields.type, field.type)));
      return next();
    };
    await Promise.all([next(), next(), next()]);
  })().finally(() => underWay.delete(key));
  underWay.set(key, work);
  return work;
}
