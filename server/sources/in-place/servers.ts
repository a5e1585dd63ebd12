import { connect } from 'node:net';
import pg from 'pg';
import QueryStream from 'pg-query-stream';
import { transaction } from '../../db/transaction';

/** How a server is reached. */
export interface Reached {
  host: string;
  port: number;
  database: string;
  user: string;
  password: string;
  tls: 'off' | 'usual' | 'own';
  authority: string | null;
  /** So long a statement may take. */
  seconds: number;
  /** So many connections are open at a time. */
  most: number;
}

/** So long a server has to answer at all, ms. */
const patience = 10_000;
/** So much later than a server should have broken off a statement, it is given up, ms. */
const grace = 3000;
/** Rows that are fetched at a time where all are. */
const rowsAtATime = 5000;
/** A connection that nobody uses is closed after so long, ms. */
const idle = 60_000;

const poolConfig = ({ host, port, database, user, password, tls, authority, seconds, most }: Reached) => ({
  host,
  port,
  database,
  user,
  password,
  max: most,
  connectionTimeoutMillis: patience,
  idleTimeoutMillis: idle,
  query_timeout: seconds * 1000 + grace,
  keepAlive: true,
  application_name: 'sorvik',
  ssl:
    tls === 'off'
      ? false
      : // The name that has to stand in the certificate, also where it is an address.
        ({
          rejectUnauthorized: true,
          host,
          ...(tls === 'own' && authority ? { ca: authority } : {}),
        } as object),
});

/** The code of the message of PostgreSQL's protocol that breaks off what another connection does. */
const cancelCode = 80_877_102;

/**
 * Has a server break off what it does for a connection: what the protocol has for it, and no statement. Resolves once it has
 * heard of it, or cannot.
 */
function breakOff({ host, port }: Reached, client: pg.PoolClient): Promise<void> {
  const { processID, secretKey } = client as unknown as { processID: number; secretKey: number };
  const message = Buffer.alloc(16);
  for (const [i, word] of [16, cancelCode, processID, secretKey].entries())
    message.writeInt32BE(word | 0, 4 * i);
  return new Promise((done) => {
    const socket = connect({ host, port, timeout: patience }, () => socket.end(message));
    // What it may still say is passed over: only then does its end come.
    socket.resume();
    socket.on('error', () => {});
    socket.on('timeout', () => socket.destroy());
    socket.on('close', () => done());
  });
}

/** Connections to a server of somebody else's, on which nothing is ever changed. */
export class Server {
  private readonly pool: pg.Pool;

  constructor(private readonly reached: Reached) {
    this.pool = new pg.Pool(poolConfig(reached));
    this.pool.on('error', () => {});
    this.pool.on('connect', (client) => {
      client.on('error', () => {});
      // What PostgreSQL itself leaves off: parts of a table are added up where they lie. Others need not know of it.
      client.query('SET enable_partitionwise_aggregate = on').catch(() => {});
    });
  }

  private get begin(): string {
    return `BEGIN READ ONLY; SET LOCAL statement_timeout = ${this.reached.seconds * 1000}; SET LOCAL TIME ZONE 'UTC'`;
  }

  /** Asks in a transaction that can only read, and for no longer than is allowed. */
  async read<T>(work: (client: pg.PoolClient) => Promise<T>, signal?: AbortSignal): Promise<T> {
    signal?.throwIfAborted();
    const client = await this.pool.connect();
    return transaction(client, () => work(client), {
      begin: this.begin,
      signal,
      breakOff: () => breakOff(this.reached, client),
      isSpent: ({ message }) => /timeout/i.test(message),
    });
  }

  /** Asks for all rows there are as a statement has them, some at a time. Each time it may take as long as a statement. */
  async *readAll(text: string, signal: AbortSignal): AsyncGenerator<unknown[][]> {
    signal.throwIfAborted();
    const client = await this.pool.connect();
    let done = false;
    const stop = () => void breakOff(this.reached, client);
    signal.addEventListener('abort', stop, { once: true });
    try {
      await client.query(this.begin);
      const stream = client.query(new QueryStream(text, [], { rowMode: 'array', batchSize: rowsAtATime }));
      let some: unknown[][] = [];
      for await (const row of stream as AsyncIterable<unknown[]>) {
        some.push(row);
        if (some.length < rowsAtATime) continue;
        yield some;
        some = [];
      }
      if (some.length) yield some;
      await client.query('COMMIT');
      done = true;
    } finally {
      signal.removeEventListener('abort', stop);
      // One that was left in the middle is not used again.
      client.release(!done);
    }
  }

  close(): Promise<void> {
    return this.pool.end();
  }
}
