import type pg from 'pg';
import { placeColumn } from '../row-columns';

/** Makes the table of a dataset's rows; `columns` as SQL. */
export async function makeRowTable(
  client: pg.ClientBase,
  table: string,
  columns: readonly string[],
): Promise<void> {
  // Its rows never change: there is nothing to tidy up behind them, and its statistics are taken once it is full.
  await client.query(
    `CREATE TABLE ${table} (${[...columns, `${placeColumn} bigint NOT NULL`].join(', ')}) WITH (autovacuum_enabled = false)`,
  );
}

/** Rows lie by their places: an index of a few pages finds those of a page. Made once the table is full. */
export const indexPlaces = (client: pg.ClientBase, table: string) =>
  client.query(`CREATE INDEX ON ${table} USING brin (${placeColumn})`);
