import { and, eq, isNull } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import type pg from 'pg';
import type { Database, Db } from '../db/client';
import * as schema from '../db/schema';
import { transaction } from '../db/transaction';
import { HttpProblem } from '../http/problem';
import { tell } from '../tell';
import { type Field, fieldsOf, findDataset, type StoredDataset } from './store';

/** The lock of a dataset is this number and the one of its table. Who reads rows shares it, who changes them has it alone. */
const lockOfDatasets = 7301;

/** What reads a dataset: as it is for as long as it is read. */
export interface Reading {
  client: pg.ClientBase;
  dataset: StoredDataset;
  fields: Field[];
}

interface ReadingOptions {
  /** May take longer than a question usually may. */
  slow?: boolean;
  /** Whoever asked has gone: the database stops. */
  signal?: AbortSignal;
  /** All is read as it is at one moment, whoever adds rows meanwhile. */
  atOneMoment?: boolean;
}

/** Reads rows of a dataset, which nobody changes meanwhile. Throws 404 where there is none. */
export async function reading<T>(
  { readers, pool }: Database,
  id: string,
  work: (reading: Reading) => Promise<T>,
  { slow = false, signal, atOneMoment = false }: ReadingOptions = {},
): Promise<T> {
  const client = await readers.connect();
  const { processID } = client as unknown as { processID: number };
  const read = async () => {
    const db = drizzle(client, { schema });
    const { number } = await findDataset(db, id);
    await client.query('SELECT pg_advisory_xact_lock_shared($1, $2)', [lockOfDatasets, number]);
    // Somebody may have changed it while this waited.
    const dataset = await findDataset(db, id);
    return work({ client, dataset, fields: await fieldsOf(db, id) });
  };
  return transaction(client, read, {
    begin: `BEGIN${atOneMoment ? ' ISOLATION LEVEL REPEATABLE READ' : ''}${slow ? '; SET LOCAL statement_timeout = 0' : ''}`,
    signal,
    breakOff: () => pool.query('SELECT pg_cancel_backend($1)', [processID]),
  });
}

/** Has a dataset stay as it is for the rest of a transaction; undefined where there is none. Those in place are none. */
export async function heldStill(
  client: pg.ClientBase | pg.Pool,
  id: string,
): Promise<StoredDataset | undefined> {
  const db: Db = drizzle(client as pg.PoolClient, { schema });
  const find = async () => {
    const [found] = await db
      .select()
      .from(schema.datasets)
      .where(and(eq(schema.datasets.id, id), isNull(schema.datasets.deletedAt)));
    return found && found.connection === null ? found : undefined;
  };
  const found = await find();
  if (!found) return undefined;
  await client.query('SELECT pg_advisory_xact_lock_shared($1, $2)', [lockOfDatasets, found.number]);
  // Somebody may have changed it while this waited.
  return find();
}

/** Refuses a dataset whose rows are in somebody else's database. */
export function needOwnRows({ name, connection }: StoredDataset): void {
  if (connection !== null) throw new HttpProblem(409, 'table-in-place', tell('inPlace.ownOnly', { name }));
}

/**
 * The only one that changes the rows of a dataset, for the rest of a transaction, while others read them as they were
 * before; the dataset as it is then. Throws 409 where its rows are not ours.
 */
export async function besideReaders(client: pg.ClientBase, id: string): Promise<StoredDataset> {
  const db: Db = drizzle(client as pg.PoolClient, { schema });
  const found = await findDataset(db, id);
  needOwnRows(found);
  // One after the other; and not while its table becomes another one.
  const [locked] = await db.select().from(schema.datasets).where(eq(schema.datasets.id, id)).for('update');
  await client.query('SELECT pg_advisory_xact_lock_shared($1, $2)', [lockOfDatasets, locked!.number]);
  return locked!;
}

/**
 * The only one that reads or changes the rows of a dataset, for the rest of a transaction; the dataset as it is then.
 * Throws 409 where its rows are not ours.
 */
export async function alone(client: pg.ClientBase, id: string): Promise<StoredDataset> {
  const db: Db = drizzle(client as pg.PoolClient, { schema });
  const found = await findDataset(db, id);
  needOwnRows(found);
  const { number } = found;
  await client.query('SELECT pg_advisory_xact_lock($1, $2)', [lockOfDatasets, number]);
  const [dataset] = await db.select().from(schema.datasets).where(eq(schema.datasets.id, id)).for('update');
  return dataset!;
}
