import type { FieldProfile } from '@sorvik/core/dataset';
import { isTemporal } from '@sorvik/core/values';
import { and, eq } from 'drizzle-orm';
import type pg from 'pg';
import { type Database, quoted, tableOf } from '../db/client';
import { fields } from '../db/schema';
import { type Field, fieldsOf, type StoredDataset } from './store';

async function profileField(pool: pg.Pool, table: string, field: Field): Promise<FieldProfile> {
  const column = quoted(field.key);
  const ordered = field.type === 'boolean' ? `${column}::text` : column;
  const shown = isTemporal(field.type) ? '::text' : '';
  const totals = await pool.query(
    `SELECT count(*) AS rows, count(${column}) AS count, (min(${ordered}))${shown} AS min, (max(${ordered}))${shown} AS max FROM ${table}`,
  );
  const distinct = await pool.query(
    `SELECT count(*) AS n FROM (SELECT DISTINCT ${column} FROM ${table} WHERE ${column} IS NOT NULL) AS d`,
  );
  const { rows, count, min, max } = totals.rows[0];
  const short = (value: unknown) =>
    typeof value === 'string' ? value.slice(0, 200) : (value as number | null);
  return { count, missing: rows - count, distinct: distinct.rows[0].n, min: short(min), max: short(max) };
}

const underWay = new Map<string, Promise<void>>();

/** Computes and keeps the profiles that a dataset's fields still lack; asked twice at once, it is done once. */
export async function ensureProfiles({ db, pool }: Database, dataset: StoredDataset): Promise<void> {
  const key = `${dataset.id} ${dataset.version}`;
  const running = underWay.get(key);
  if (running) return running;
  const work = (async () => {
    const waiting = (await fieldsOf(db, dataset.id)).filter((field) => !field.profile);
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
