import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { Changes } from './changes';
import { Room } from './room';
import * as schema from './schema';

const oid = { int8: 20, date: 1082, timestamp: 1114, numeric: 1700 };

// Dates stay text, so that no time zone of this process ever touches them; counts are numbers.
pg.types.setTypeParser(oid.int8, Number);
pg.types.setTypeParser(oid.numeric, Number);
pg.types.setTypeParser(oid.date, (text) => text);
pg.types.setTypeParser(oid.timestamp, (text) => text.replace(' ', 'T'));

export type Db = NodePgDatabase<typeof schema> & { $client?: unknown };

export interface Database {
  db: Db;
  /** For what keeps and changes things. */
  pool: pg.Pool;
  /** For what reads rows: however many such questions there are, saving has connections left. */
  readers: pg.Pool;
  /** Tells when something that is kept has changed. */
  changes: Changes;
  /** Whether there is room to store more. */
  room: Room;
  close(): Promise<void>;
}

/** Longer than this no question takes: it is broken off, and whoever asked is told. */
export const longestQuestion = 30_000;

/** Opens pools and brings the application's tables up to date. */
export async function openDatabase(
  url: string,
  migrations: string,
  onError: (error: Error) => void,
): Promise<Database> {
  const open = (max: number, more: pg.PoolConfig = {}) => {
    const pool = new pg.Pool({ connectionString: url, max, connectionTimeoutMillis: 10_000, ...more });
    pool.on('error', onError);
    // A connection can die while it is in use: nobody else listens then, and the process would end.
    pool.on('connect', (client) => client.on('error', onError));
    return pool;
  };
  const pool = open(8);
  const readers = open(6, { statement_timeout: longestQuestion });
  const db = drizzle(pool, { schema });
  await migrate(db, { migrationsFolder: migrations });
  await pool.query('CREATE SCHEMA IF NOT EXISTS data');
  const changes = await Changes.open(url, onError);
  const { rows } = await pool.query("SELECT current_setting('data_directory', true) AS folder");
  return {
    db,
    pool,
    readers,
    changes,
    room: new Room(rows[0]?.folder ?? null),
    async close() {
      await Promise.all([changes.close(), pool.end(), readers.end()]);
    },
  };
}

/**
 * Does several things at once or none of them. The connection is given back however it ends: the ORM's own transactions
 * lose it where the database goes away before they have begun.
 */
export async function atOnce<T>(db: Db, work: (tx: Db) => Promise<T>): Promise<T> {
  const client = await (db.$client as pg.Pool).connect();
  let broken: Error | undefined;
  try {
    await client.query('BEGIN');
    const done = await work(drizzle(client, { schema }));
    await client.query('COMMIT');
    return done;
  } catch (error) {
    await client.query('ROLLBACK').catch((lost: Error) => {
      broken = lost;
    });
    throw error;
  } finally {
    client.release(broken);
  }
}

/** With this begin the errors of values that do not fit a type. */
export const badData = '22';
/** The error of a figure that became larger than a double can be. */
export const numericOverflow = '22003';

/** A name as an SQL identifier. */
export const quoted = (name: string) => `"${name.replaceAll('"', '""')}"`;
export const tableOf = (number: number) => `data.d_${number}`;
