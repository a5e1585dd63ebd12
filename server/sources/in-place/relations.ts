import type { RemoteField, RemoteTable, RemoteTableView } from '@sorvik/core/board/api-types';
import type pg from 'pg';
import { typeOfColumn } from './columns';

/** Of the catalogue only what all that speak PostgreSQL's protocol have in it. */
const tablesSql = `
  SELECT n.nspname AS schema, c.relname AS name, c.relkind IN ('v', 'm') AS viewed, c.reltuples::float8 AS rows, c.oid AS oid
  FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
  WHERE c.relkind IN ('r', 'v', 'm', 'f', 'p')
  AND n.nspname NOT IN ('pg_catalog', 'information_schema', 'pg_toast', 'crdb_internal', 'pg_extension', 'gp_toolkit')
  AND n.nspname NOT LIKE 'pg_temp%'`;

/** More tables than this are not listed. */
const mostTables = 2000;

const tableOf = (row: Record<string, unknown>): RemoteTable => ({
  schema: String(row.schema),
  name: String(row.name),
  kind: row.viewed ? 'view' : 'table',
  rows: Number(row.rows) > 0 ? Number(row.rows) : null,
});

/** The tables and views that whoever connects may read; parts of others stand for themselves in those. */
export async function tablesOf(client: pg.ClientBase): Promise<RemoteTable[]> {
  const { rows } = await client.query(
    `${tablesSql} AND has_table_privilege(c.oid, 'SELECT')
     AND NOT EXISTS (SELECT 1 FROM pg_catalog.pg_inherits i WHERE i.inhrelid = c.oid)
     ORDER BY 1, 2 LIMIT ${mostTables}`,
  );
  return rows.map(tableOf);
}

async function columnsOf(client: pg.ClientBase, oid: number): Promise<RemoteField[]> {
  const { rows } = await client.query(
    `SELECT a.attname AS name, t.typtype = 'e' AS enumerated,
       pg_catalog.format_type(CASE WHEN t.typtype = 'd' THEN t.typbasetype ELSE a.atttypid END, NULL) AS type
     FROM pg_catalog.pg_attribute a JOIN pg_catalog.pg_type t ON t.oid = a.atttypid
     WHERE a.attrelid = $1 AND a.attnum > 0 AND NOT a.attisdropped ORDER BY a.attnum`,
    [oid],
  );
  return rows.map(({ name, type, enumerated }) => ({
    name: String(name),
    is: String(type),
    type: typeOfColumn(String(type), enumerated === true),
  }));
}

/** The columns of the primary key, of a table that has one. */
async function keyOf(client: pg.ClientBase, oid: number): Promise<string[]> {
  const { rows } = await client.query(
    `SELECT a.attname AS name FROM pg_catalog.pg_index i
     JOIN pg_catalog.pg_attribute a ON a.attrelid = i.indrelid AND a.attnum = ANY (i.indkey)
     WHERE i.indrelid = $1 AND i.indisprimary ORDER BY a.attnum`,
    [oid],
  );
  return rows.map(({ name }) => String(name));
}

/** What there is to know of a table, and the columns of its key; null where there is no such table. */
export async function relationOf(
  client: pg.ClientBase,
  schema: string,
  name: string,
): Promise<(RemoteTableView & { order: string[] }) | null> {
  const { rows } = await client.query(
    `SELECT found.*, has_table_privilege(found.oid, 'INSERT') OR has_table_privilege(found.oid, 'DELETE') AS changeable
     FROM (${tablesSql} AND n.nspname = $1 AND c.relname = $2) AS found`,
    [schema, name],
  );
  const [found] = rows;
  if (!found) return null;
  const fields = await columnsOf(client, found.oid);
  return {
    ...tableOf(found),
    changeable: found.changeable === true,
    fields,
    order: await keyOf(client, found.oid),
  };
}
