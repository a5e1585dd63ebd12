import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import * as schema from './schema';

const oid = { int8: 20, date: 1082, timestamp: 1114, numeric: 1700 };

// Dates stay text, so that no time zone of this process ever touches them; counts are numbers.
pg.types.setTypeParser(oid.int8, Number);
pg.types.setTypeParser(oid.numeric, Number);
pg.types.setTypeParser(oid.date, (text) => text);
pg.types.setTypeParser(oid.timestamp, (text) => text.replace(' ', 'T'));

export type Db = NodePgDatabase<typeof schema>;

export interface Database {
  db: Db;
  pool: pg.Pool;
  close(): Promise<void>;
}

/** Opens a pool and brings the application's tables up to date. */
export async function openDatabase(
  url: string,
  migrations: string,
  onError: (error: Error) => void,
): Promise<Database> {
  const pool = new pg.Pool({ connectionString: url, max: 8, connectionTimeoutMillis: 10_000 });
  // A connection that dies in the pool is replaced on the next use; it must not end the process.
  pool.on('error', onError);
  const db = drizzle(pool, { schema });
  await migrate(db, { migrationsFolder: migrations });
  await pool.query('CREATE SCHEMA IF NOT EXISTS data');
  return { db, pool, close: () => pool.end() };
}

/** With this begin the errors of values that do not fit a type. */
export const badData = '22';
/** The error of a figure that became larger than a double can be. */
export const numericOverflow = '22003';

/** A name as an SQL identifier. */
export const quoted = (name: string) => `"${name.replaceAll('"', '""')}"`;
export const tableOf = (number: number) => `data.d_${number}`;
