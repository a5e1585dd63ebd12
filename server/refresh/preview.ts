import type { FieldReach, RefreshMode, RefreshPreview } from '@sorvik/core/board/api-types';
import { cameWithRows } from '@sorvik/core/data/dataset';
import { dependents } from '@sorvik/core/data/row-formula';
import { english } from '@sorvik/core/messages/locale';
import { linesNaming } from '@sorvik/core/text/lines-naming';
import { listed } from '@sorvik/core/words/plural';
import { fullEngine } from '@sorvik/formula/full-engine';
import type pg from 'pg';
import { findBoard } from '../boards/store';
import { asRowField, fieldUses } from '../datasets/computed';
import { needOwnRows, reading } from '../datasets/locked';
import { whyLookedUp } from '../datasets/looked-up';
import { datasetInfos, type Field, type StoredDataset } from '../datasets/store';
import { type Database, quoted, tableOf } from '../db/client';
import { cutText } from '../http/well-formed';
import type { StagedRows } from '../imports/landing';
import { tell } from '../tell';
import { isNew } from './target-plans';

/** So many new values of a field are told, and so many sentences of a board. */
const mostExamples = 8;
const mostLines = 6;

/** The boards that name a field, and what they say with it. */
async function reachOf(database: Database, dataset: StoredDataset, key: string): Promise<FieldReach[]> {
  const { boards } = await fieldUses(database, dataset, key);
  if (!boards.length) return [];
  const infos = await datasetInfos(database.db);
  return Promise.all(
    boards.map(async ({ id, title }) => {
      const { document } = await findBoard(database.db, id);
      const lines = linesNaming(document, infos, { dataset: dataset.id, key }, fullEngine);
      return { board: id, title, lines: lines.slice(0, mostLines) };
    }),
  );
}

/** Values of a field that come in and were not there before: how many, and the first of them. */
async function newValues(client: pg.ClientBase, { key }: Field, incoming: string, present: string) {
  const column = quoted(key);
  const { rows } = await client.query(
    `WITH new AS (SELECT DISTINCT ${column} AS value FROM ${incoming} AS come WHERE ${column} IS NOT NULL
       AND NOT EXISTS (SELECT FROM ${present} AS kept WHERE kept.${column} = come.${column}))
     SELECT value::text, count(*) OVER () AS n FROM new ORDER BY 1 LIMIT ${mostExamples}`,
  );
  return { count: Number(rows[0]?.n ?? 0), examples: rows.map(({ value }) => cutText(value, 100)) };
}

/** Why a computed field could not go on without some fields, or with other types; undefined where all can. */
function refusal(fields: readonly Field[], missing: readonly Field[]): string | undefined {
  const all = fields.map(asRowField);
  for (const { key, name } of missing) {
    const needed = dependents(key, all, fullEngine).map((each) => each.name);
    if (needed.length)
      return tell('refresh.computedNeeds', { name, fields: listed(needed, english), n: needed.length });
  }
  return undefined;
}

/** What the rows that wait would change about a dataset. Changes nothing. */
export async function previewRefresh(
  database: Database,
  id: string,
  {
    mode,
    by,
    keys,
    inspection,
    number,
    rows,
    rejected,
  }: StagedRows & { mode: RefreshMode; by: string | undefined },
  signal: AbortSignal,
): Promise<RefreshPreview> {
  const incoming = tableOf(number);
  const { dataset, fields, counts, fresh } = await reading(
    database,
    id,
    async ({ client, dataset, fields }) => {
      needOwnRows(dataset);
      const present = tableOf(dataset.number);
      const kept = fields.filter((field) => cameWithRows(field) && keys.includes(field.key));
      const counts = { in: rows, out: mode === 'replace' ? dataset.rows : 0 };
      if (mode === 'merge' && by !== undefined) {
        const column = quoted(by);
        const found = await client.query(
          `SELECT (SELECT count(*) FROM ${present} WHERE ${column} IN (SELECT ${column} FROM ${incoming})) AS out,
             (SELECT count(*) FROM ${incoming} WHERE ${column} IS NOT NULL) AS in`,
        );
        Object.assign(counts, found.rows[0]);
      }
      const fresh: { field: Field; count: number; examples: string[] }[] = [];
      for (const field of kept) {
        const plan = inspection.plans[keys.indexOf(field.key)];
        if (field.type !== 'text' || plan?.type !== 'text') continue;
        const values = await newValues(client, field, incoming, present);
        if (values.count) fresh.push({ field, ...values });
      }
      return { dataset, fields, counts, fresh };
    },
    { slow: true, signal },
  );
  const planOf = (key: string) => inspection.plans[keys.indexOf(key)];
  const own = fields.filter(cameWithRows);
  const missing = own.filter(({ key }) => !keys.includes(key));
  const retyped = own.flatMap((field) => {
    const plan = planOf(field.key);
    return plan && plan.type !== field.type ? [{ field, to: plan.type }] : [];
  });
  const refused =
    mode === 'replace'
      ? (refusal(fields, missing) ?? (await whyLookedUp(database.db, dataset.id, missing)))
      : undefined;
  const values: RefreshPreview['values'] = [];
  for (const { field, count, examples } of fresh) {
    const reach = await reachOf(database, dataset, field.key);
    if (reach.length) values.push({ name: field.name, count, examples, reach });
  }
  return {
    mode,
    ...(by === undefined ? {} : { by }),
    rows: { now: dataset.rows, ...counts, after: dataset.rows - counts.out + counts.in },
    rejected: rejected + (rows - counts.in),
    added: inspection.plans.filter(({ name }) => isNew(fields, name)).map(({ name }) => name),
    missing: await Promise.all(
      missing.map(async ({ key, name }) => ({ name, reach: await reachOf(database, dataset, key) })),
    ),
    retyped: await Promise.all(
      retyped.map(async ({ field, to }) => ({
        name: field.name,
        from: field.type,
        to,
        reach: await reachOf(database, dataset, field.key),
      })),
    ),
    values,
    ...(refused === undefined ? {} : { refused }),
  };
}
