import type pg from 'pg';
import { quoted, tableOf } from '../../db/client';
import { placeColumn } from '../row-columns';

/** Makes the table of a dataset's rows; `columns` as SQL. */
export async function makeRowTable(
  client: pg.ClientBase,
  table: string,
  columns: readonly string[],
): Promise<void> {
  // Most never change: there is nothing to tidy up behind their rows, and statistics are taken once one is full.
  await client.query(
    `CREATE TABLE ${table} (${[...columns, `${placeColumn} bigint NOT NULL`].join(', ')}) WITH (autovacuum_enabled = false)`,
  );
}

/** Makes a table that was filled fast to read: rows lie by their places, so that an index of a few pages finds those of a page. */
export async function readyTable(client: pg.ClientBase | pg.Pool, table: string): Promise<void> {
  await client.query(`ANALYZE ${table}`);
  await client.query(`CREATE INDEX ON ${table} USING brin (${placeColumn})`);
}

/** So many rows may come until they are taken into the index of places. */
const rowsBeside = 20_000;

/** Rows that were added to a table: between these places. */
export interface Grown {
  number: number;
  before: number;
  after: number;
}

/**
 * Takes rows that were added to a table into the index of places, once they are many: until then all of them are looked through by
 * whoever asks for the last ones. Nobody has to wait for it, and it does not throw.
 */
export async function indexNewPlaces(pool: pg.Pool, { number, before, after }: Grown): Promise<void> {
  if (Math.floor(before / rowsBeside) === Math.floor(after / rowsBeside)) return;
  await pool
    .query(
      `SELECT brin_summarize_new_values(i.indexrelid) FROM pg_index i
       JOIN pg_class x ON x.oid = i.indexrelid JOIN pg_am a ON a.oid = x.relam
       WHERE i.indrelid = to_regclass($1) AND a.amname = 'brin'`,
      [tableOf(number)],
    )
    .catch(() => {});
}

/** Counts the version in which a row was taken away. No field has such a key. */
export const goneColumn = '"#gone"';

/** The table with the rows that were taken out of another one. */
export const pastOf = (number: number): string => `data.d_${number}_past`;

export async function hasPast(client: pg.ClientBase, number: number): Promise<boolean> {
  const { rows } = await client.query('SELECT to_regclass($1) IS NOT NULL AS there', [pastOf(number)]);
  return rows[0].there;
}

/** Sees to it that rows can be taken out of a table and come back. */
export async function ensurePast(client: pg.ClientBase, number: number): Promise<void> {
  if (await hasPast(client, number)) return;
  await client.query(
    `CREATE TABLE ${pastOf(number)} (LIKE ${tableOf(number)}, ${goneColumn} integer NOT NULL)`,
  );
  // From now on rows come and go.
  await client.query(`ALTER TABLE ${tableOf(number)} RESET (autovacuum_enabled)`);
}

/** The tables in which rows of a dataset are, those that were taken away with what else is kept of them. */
export async function tablesOf(
  client: pg.ClientBase,
  number: number,
): Promise<{ table: string; more: string[] }[]> {
  const present = { table: tableOf(number), more: [placeColumn] };
  return (await hasPast(client, number))
    ? [present, { table: pastOf(number), more: [placeColumn, goneColumn] }]
    : [present];
}

export const dropTables = async (client: pg.ClientBase | pg.Pool, number: number): Promise<void> => {
  await client.query(`DROP TABLE IF EXISTS ${tableOf(number)}, ${pastOf(number)}`);
};

/** Has the rows with a value of a field found without going through all of them. */
export const indexKey = (client: pg.ClientBase, number: number, key: string) =>
  client.query(
    `CREATE INDEX IF NOT EXISTS ${quoted(`d_${number}_by_${key}`.slice(0, 63))} ON ${tableOf(number)} (${quoted(key)})`,
  );

/** Names of columns as a list. */
export const columnList = (keys: readonly string[]): string => keys.map(quoted).join(', ');
