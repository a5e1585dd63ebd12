import type pg from 'pg';

interface TransactionOptions {
  /** The statements that begin it. */
  begin: string;
  /** Whoever asked has gone. */
  signal?: AbortSignal | undefined;
  /** Has the database stop what it does for the connection; resolves once it has heard of it. */
  breakOff(): Promise<unknown>;
  /** Whether a connection that failed so may still be at work: it is then not used again. */
  isSpent?(error: Error): boolean;
}

/**
 * Does work in a transaction on a connection, which is given back however it ends. Where the signal is aborted, the database
 * stops, and that is waited for before the connection is used again: else what is broken off would be somebody else's question.
 */
export async function transaction<T>(
  client: pg.PoolClient,
  work: () => Promise<T>,
  { begin, signal, breakOff, isSpent = () => false }: TransactionOptions,
): Promise<T> {
  let broken: Error | undefined;
  let cancelling: Promise<unknown> = Promise.resolve();
  const cancel = () => {
    cancelling = breakOff().catch(() => {});
  };
  try {
    signal?.throwIfAborted();
    signal?.addEventListener('abort', cancel, { once: true });
    await client.query(begin);
    const found = await work();
    await client.query('COMMIT');
    return found;
  } catch (error) {
    await cancelling;
    if (isSpent(error as Error)) broken = error as Error;
    else
      await client.query('ROLLBACK').catch((lost: Error) => {
        broken = lost;
      });
    throw error;
  } finally {
    signal?.removeEventListener('abort', cancel);
    await cancelling;
    client.release(broken);
  }
}
