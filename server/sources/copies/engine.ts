import { totalmem } from 'node:os';
import { join } from 'node:path';
import type { DuckDBConnection, DuckDBInstance, DuckDBResultReader, DuckDBValue } from '@duckdb/node-api';

import { longestQuestion } from '../../db/client';

type DuckDB = typeof import('@duckdb/node-api');

/** What nobody waits for is done when nothing else is being asked, or after so long, ms. */
const patience = 1000;

/** What the column store may take of the machine. */
export interface EngineLimits {
  threads: number;
  /** Bytes. */
  memory: number;
}

export const usualLimits = (): EngineLimits => ({ threads: 2, memory: Math.floor(totalmem() / 4) });

/** Has the code of a statement that the database has broken off, so that it is answered like one. */
export class TookTooLong extends Error {
  readonly code = '57014';
}

/** A text as an SQL literal: for names of files, which cannot be bound. */
export const literal = (text: string) => `'${text.replaceAll("'", "''")}'`;

/**
 * The column store that copies are kept in: one for all of them, so that they share its memory and its threads. It
 * fetches nothing: what it was not built with it does not have.
 */
export class Engine {
  /** So much is being worked on. */
  private working = 0;
  /** The end of what is done behind it. */
  private lane: Promise<unknown> = Promise.resolve();
  /** What waits until nothing is. */
  private readonly waiting = new Set<() => void>();

  private constructor(
    private readonly duck: DuckDB,
    private readonly instance: DuckDBInstance,
  ) {}

  /** `folder` takes what does not fit in memory. Throws where this machine has no such column store. */
  static async open(folder: string, { threads, memory }: EngineLimits): Promise<Engine> {
    const duck = await import('@duckdb/node-api');
    const instance = await duck.DuckDBInstance.create(':memory:', {
      threads: String(threads),
      memory_limit: `${Math.floor(memory / 1024 / 1024)}MiB`,
      temp_directory: join(folder, 'spill'),
      // Rows have a place of their own: what needs an order asks for it.
      preserve_insertion_order: 'false',
      autoinstall_known_extensions: 'false',
      autoload_known_extensions: 'false',
      allow_community_extensions: 'false',
    });
    return new Engine(duck, instance);
  }

  /**
   * Runs work on a connection of its own, which is broken off when the signal is aborted, or after so many ms: then it
   * throws `TookTooLong`.
   */
  async on<T>(
    work: (connection: DuckDBConnection) => Promise<T>,
    signal?: AbortSignal,
    longest = Number.POSITIVE_INFINITY,
  ): Promise<T> {
    signal?.throwIfAborted();
    this.working++;
    const connection = await this.instance.connect().catch((error) => {
      this.ended();
      throw error;
    });
    const stop = () => connection.interrupt();
    let late = false;
    const timer = Number.isFinite(longest)
      ? setTimeout(() => {
          late = true;
          stop();
        }, longest)
      : undefined;
    signal?.addEventListener('abort', stop, { once: true });
    try {
      return await work(connection);
    } catch (error) {
      throw late ? new TookTooLong() : error;
    } finally {
      clearTimeout(timer);
      signal?.removeEventListener('abort', stop);
      connection.closeSync();
      this.ended();
    }
  }

  private ended(): void {
    if (--this.working) return;
    for (const go of this.waiting) go();
  }

  /** Does what nobody waits for: one after the other, and each once nothing else is being asked, or after a while. */
  behind<T>(act: () => Promise<T>): Promise<T> {
    const turn = this.lane.then(() => this.quiet()).then(act);
    this.lane = turn.catch(() => {});
    return turn;
  }

  /** Resolves once nothing is being worked on, or after a while. */
  private async quiet(): Promise<void> {
    if (!this.working) return;
    await new Promise<void>((done) => {
      const go = () => {
        clearTimeout(timer);
        this.waiting.delete(go);
        done();
      };
      const timer = setTimeout(go, patience);
      this.waiting.add(go);
    });
  }

  /**
   * Values as a statement takes them, and their types. All travel as texts, and lists as lists of texts: the statement
   * says of what type they are.
   */
  private bound(values: readonly unknown[]) {
    const { LIST, VARCHAR, listValue } = this.duck;
    const bound = values.map(
      (value): DuckDBValue =>
        Array.isArray(value) ? listValue(value.map(String)) : value === null ? null : String(value),
    );
    return [bound, values.map((value) => (Array.isArray(value) ? LIST(VARCHAR) : VARCHAR))] as const;
  }

  /** Runs a statement with values of its own. */
  run(connection: DuckDBConnection, text: string, values: readonly unknown[]) {
    const [bound, types] = this.bound(values);
    return connection.run(text, bound, types);
  }

  /** Asks one question; the answer is read to its end. */
  ask(text: string, values: readonly unknown[] = [], signal?: AbortSignal): Promise<DuckDBResultReader> {
    const [bound, types] = this.bound(values);
    return this.on((connection) => connection.runAndReadAll(text, bound, types), signal, longestQuestion);
  }

  close(): void {
    this.instance.closeSync();
  }
}
