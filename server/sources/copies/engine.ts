import { totalmem } from 'node:os';
import { join } from 'node:path';
import {
  type DuckDBConnection,
  DuckDBInstance,
  type DuckDBResultReader,
  type DuckDBValue,
  LIST,
  listValue,
  VARCHAR,
} from '@duckdb/node-api';

/** What the column store may take of the machine. */
export interface EngineLimits {
  threads: number;
  /** Bytes. */
  memory: number;
}

export const usualLimits = (): EngineLimits => ({ threads: 2, memory: Math.floor(totalmem() / 4) });

/** A text as an SQL literal: for names of files, which cannot be bound. */
export const literal = (text: string) => `'${text.replaceAll("'", "''")}'`;

/** All values travel as texts, and lists as lists of texts: the statement says of what type they are. */
const boundValue = (value: unknown): DuckDBValue =>
  Array.isArray(value) ? listValue(value.map(String)) : value === null ? null : String(value);

/**
 * The column store that copies are kept in: one for all of them, so that they share its memory and its threads. It
 * fetches nothing: what it was not built with it does not have.
 */
export class Engine {
  private constructor(private readonly instance: DuckDBInstance) {}

  /** `folder` takes what does not fit in memory. */
  static async open(folder: string, { threads, memory }: EngineLimits): Promise<Engine> {
    const instance = await DuckDBInstance.create(':memory:', {
      threads: String(threads),
      memory_limit: `${Math.floor(memory / 1024 / 1024)}MiB`,
      temp_directory: join(folder, 'spill'),
      autoinstall_known_extensions: 'false',
      autoload_known_extensions: 'false',
      allow_community_extensions: 'false',
    });
    return new Engine(instance);
  }

  /** Runs work on a connection of its own, which is broken off when the signal is aborted. */
  async on<T>(work: (connection: DuckDBConnection) => Promise<T>, signal?: AbortSignal): Promise<T> {
    signal?.throwIfAborted();
    const connection = await this.instance.connect();
    const stop = () => connection.interrupt();
    signal?.addEventListener('abort', stop, { once: true });
    try {
      return await work(connection);
    } finally {
      signal?.removeEventListener('abort', stop);
      connection.closeSync();
    }
  }

  /** Runs a statement with values of its own. */
  run(connection: DuckDBConnection, text: string, values: readonly unknown[]) {
    return connection.run(
      text,
      values.map(boundValue),
      values.map((value) => (Array.isArray(value) ? LIST(VARCHAR) : VARCHAR)),
    );
  }

  /** Asks one question; the answer is read to its end. */
  ask(text: string, values: readonly unknown[] = [], signal?: AbortSignal): Promise<DuckDBResultReader> {
    return this.on(
      (connection) =>
        connection.runAndReadAll(
          text,
          values.map(boundValue),
          values.map((value) => (Array.isArray(value) ? LIST(VARCHAR) : VARCHAR)),
        ),
      signal,
    );
  }

  close(): void {
    this.instance.closeSync();
  }
}
