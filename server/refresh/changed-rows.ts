import type { DataChange } from '@sorvik/core/board/api-types';
import { drizzle } from 'drizzle-orm/node-postgres';
import type pg from 'pg';
import { reading } from '../datasets/locked';
import type { Database, Db } from '../db/client';
import * as schema from '../db/schema';
import { columnList } from '../sources/postgres/row-table';
import { placeColumn } from '../sources/row-columns';
import { fieldsOfVersion, findVersion, rowsOfVersion } from './versions';

/** So many rows are shown of those that are only in one of two versions. */
const mostShown = 100;

/** Rows of one query that another one does not have, and how many there are; those that are twice count twice. */
async function onlyIn(client: pg.ClientBase, one: string, other: string, columns: string) {
  const { rows } = await client.query({
    text: `WITH differing AS (SELECT ${columns} FROM (${one}) AS a EXCEPT ALL SELECT ${columns} FROM (${other}) AS b)
      SELECT *, count(*) OVER () FROM differing LIMIT ${mostShown}`,
    rowMode: 'array',
  });
  return { count: Number(rows[0]?.at(-1) ?? 0), rows: rows.map((row: unknown[]) => row.slice(0, -1)) };
}

/** What changed from one version of a dataset to another one, in the fields that both have. Throws 404 where one is gone. */
export const changedRows = (
  database: Database,
  id: string,
  from: number,
  to: number,
  signal: AbortSignal,
): Promise<DataChange> =>
  reading(
    database,
    id,
    async ({ client }) => {
      const db: Db = drizzle(client as pg.PoolClient, { schema });
      const [before, after] = [await findVersion(db, id, from), await findVersion(db, id, to)];
      const [then, now] = [await fieldsOfVersion(db, before), await fieldsOfVersion(db, after)];
      // A field that is of another type by now cannot be told from what it was.
      const common = now.filter(({ key, type }) =>
        then.some((field) => field.key === key && field.type === type),
      );
      const keys = common.map(({ key }) => key);
      const old = await rowsOfVersion(client, before, keys);
      const young = await rowsOfVersion(client, after, keys);
      const columns = columnList(keys) || placeColumn;
      return {
        fields: common.map(({ name }) => name),
        added: await onlyIn(client, young, old, columns),
        removed: await onlyIn(client, old, young, columns),
      };
    },
    { slow: true, signal },
  );
