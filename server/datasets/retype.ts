import type { RetypePreview } from '@sorvik/core/board/api-types';
import { dependents } from '@sorvik/core/data/row-formula';
import type { FieldType } from '@sorvik/core/data/values';
import { fullEngine } from '@sorvik/formula/full-engine';
import type pg from 'pg';
import { type Database, quoted, tableOf } from '../db/client';
import { HttpProblem, notFound } from '../http/problem';
import { cutText } from '../http/well-formed';
import { sqlTypes } from '../imports/load';
import { tablesOf } from '../sources/postgres/row-table';
import { tell } from '../tell';
import { asRowField, checkRetype, computeDependents, grown, inOrder, roomToLayOut } from './computed';
import { alone, needOwnRows, reading } from './locked';
import { type Field, fieldsOf, findField, type StoredDataset } from './store';

const day = String.raw`\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])`;
const clock = String.raw`([ T]([01]?\d|2[0-3]):[0-5]\d(:[0-5]\d(\.\d+)?)?)?`;

/** Days that the pattern lets through but the calendar does not have. */
const realDay = (text: string) =>
  `(substring(${text}, 9, 2)::int <= extract(day from (substring(${text}, 1, 7) || '-01')::date + interval '1 month - 1 day'))`;

/** An SQL expression that turns a column's text into a type, null where it does not fit. */
function converted(text: string, from: FieldType, type: FieldType): string {
  const when = (pattern: string, value: string, also = 'true') =>
    `CASE WHEN ${text} ~ '^\\s*${pattern}\\s*$' THEN CASE WHEN ${also} THEN ${value} END END`;
  switch (type) {
    case 'text':
      return text;
    case 'integer':
      // A number with decimals keeps nothing back when it is whole.
      return from === 'boolean'
        ? `CASE ${text} WHEN 'true' THEN 1 WHEN 'false' THEN 0 END::bigint`
        : when(String.raw`[+-]?\d{1,15}(\.0*)?`, `${text}::numeric::bigint`);
    case 'decimal':
      return from === 'boolean'
        ? `CASE ${text} WHEN 'true' THEN 1 WHEN 'false' THEN 0 END::float8`
        : when(String.raw`[+-]?(\d+(\.\d*)?|\.\d+)([eE][+-]?\d{1,2})?`, `${text}::float8`);
    case 'boolean':
      return `CASE lower(trim(${text})) WHEN 'true' THEN true WHEN 't' THEN true WHEN 'yes' THEN true WHEN 'y' THEN true WHEN '1' THEN true WHEN 'false' THEN false WHEN 'f' THEN false WHEN 'no' THEN false WHEN 'n' THEN false WHEN '0' THEN false END`;
    case 'date':
      return when(day + clock, `substring(trim(${text}), 1, 10)::date`, realDay(`trim(${text})`));
    case 'datetime':
      return when(day + clock, `trim(${text})::timestamp`, realDay(`trim(${text})`));
  }
}

const expression = (field: Field, type: FieldType) =>
  converted(`${quoted(field.key)}::text`, field.type, type);

/** A date-time that becomes a date loses its time of day, which counts as a loss though a date remains. */
const losesTime = (field: Field, type: FieldType) =>
  field.type === 'datetime' && type === 'date' ? ` OR ${quoted(field.key)}::time <> '00:00'` : '';

/** What a change of a field's type would keep of its values, and lose. Throws 404 where there is no such field. */
export const previewRetype = (
  database: Database,
  id: string,
  key: string,
  type: FieldType,
  signal: AbortSignal,
): Promise<RetypePreview> =>
  reading(
    database,
    id,
    ({ client, dataset, fields }) => {
      needOwnRows(dataset);
      const field = fields.find((each) => each.key === key);
      if (!field) throw notFound('field', key);
      return kept(client, tableOf(dataset.number), field, type);
    },
    { signal },
  );

async function kept(
  client: pg.ClientBase,
  table: string,
  field: Field,
  type: FieldType,
): Promise<RetypePreview> {
  const column = quoted(field.key);
  const lost = `${column} IS NOT NULL AND ((${expression(field, type)}) IS NULL${losesTime(field, type)})`;
  const counts = await client.query(
    `SELECT count(${column}) AS held, count(*) FILTER (WHERE ${lost}) AS lost FROM ${table}`,
  );
  const examples = await client.query(
    `SELECT DISTINCT ${column}::text AS text FROM ${table} WHERE ${lost} LIMIT 5`,
  );
  const { held, lost: gone } = counts.rows[0];
  return {
    kept: held - gone,
    lost: gone,
    examples: examples.rows.map((row) => cutText(String(row.text), 100)),
  };
}

/**
 * Changes the column itself, and what is computed from it; everything computed from the dataset's older version is
 * stale afterwards.
 */
export async function retype(
  database: Database,
  dataset: StoredDataset,
  field: Field,
  type: FieldType,
): Promise<void> {
  await checkRetype(database, dataset, field.key, type);
  await inOrder(database, async (client, db) => {
    await alone(client, dataset.id);
    // Somebody else may have been first.
    const current = await findField(db, dataset.id, field.key);
    if (current.type !== field.type)
      throw new HttpProblem(409, 'edit-conflict', tell('retype.isOfAnotherType', { field: field.name }));
    const fields = (await fieldsOf(db, dataset.id)).map(asRowField);
    await roomToLayOut(database, client, dataset, 1 + dependents(field.key, fields, fullEngine).length);
    for (const { table } of await tablesOf(client, dataset.number))
      await client.query(
        `ALTER TABLE ${table} ALTER COLUMN ${quoted(field.key)} TYPE ${sqlTypes[type]} USING (${expression(field, type)})`,
      );
    await client.query('UPDATE sorvik.fields SET type = $3, profile = NULL WHERE dataset = $1 AND key = $2', [
      dataset.id,
      field.key,
      type,
    ]);
    const now = fields.map((each) => (each.key === field.key ? { ...each, type } : each));
    await computeDependents(client, dataset, now, field.key);
    await grown(client, dataset);
  });
}
