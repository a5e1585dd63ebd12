import { rm } from 'node:fs/promises';
import type { Reject } from '@sorvik/core/board/api-types';
import type pg from 'pg';
import type { Logger } from 'pino';
import { type Database, tableOf } from '../db/client';
import type { CopiedDataset } from '../sources/copies/copies';
import { readyTable } from '../sources/postgres/row-table';
import { tell } from '../tell';
import { fieldKeys } from './field-keys';
import { UnusableFile } from './inspect';
import { type Job, noteFailure } from './job';
import { keepDataset } from './keep-dataset';
import { loadRows, WiderColumn } from './load';
import { type LineFiles, SentLines } from './sent-lines';
import type { Arriving } from './text-file';

/** Where and why the first row of a file did not fit. */
const firstProblem = ([first]: readonly Reject[]): string =>
  first ? tell('jobs.firstProblemLine', { n: first.line, reason: first.reason }) : tell('jobs.theFileHasNo');

/** Loads files whose columns are known into tables. */
export class Loader {
  /** Hears of each dataset that came in, and gets what was sent to the database for it, to be removed when it is not needed. */
  onLoaded?: (dataset: CopiedDataset, lines: LineFiles[] | null) => void;

  constructor(
    private readonly database: Database,
    private readonly log: Logger,
  ) {}

  /** Loads a file and removes it. Does not throw: the job says how it went. */
  async load(job: Job): Promise<void> {
    const client = await this.database.pool.connect().catch((error: Error) => error);
    try {
      if (client instanceof Error) throw client;
      for (;;) {
        try {
          const made = await this.attempt(client, job);
          if (!job.landing) job.dataset = made;
          break;
        } catch (error) {
          await client.query('ROLLBACK').catch(() => {});
          if (!(error instanceof WiderColumn)) throw error;
          job.inspection.plans = job.inspection.plans.map((plan, i) =>
            i === error.index ? error.plan : plan,
          );
          job.note = tell('jobs.turnedOutToContain', { column: error.plan.name, type: error.plan.type });
        }
      }
      job.state = job.landing ? 'staged' : 'done';
    } catch (error) {
      if (!noteFailure(job, error)) this.log.error({ err: error, import: job.id }, 'import failed');
    } finally {
      // A connection on which a copy broke off is not used again.
      if (!(client instanceof Error)) client.release(job.state !== 'done' && job.state !== 'staged');
      await rm(job.path, { force: true });
    }
  }

  /**
   * One pass over the file in one transaction: either everything of it is there afterwards, or nothing. Of a file that is
   * still arriving nothing is kept before `agreed` says that it is as it was taken to be.
   */
  async attempt(
    client: pg.PoolClient,
    job: Job,
    { arriving, agreed }: { arriving?: Arriving; agreed?: Promise<boolean> } = {},
  ): Promise<string> {
    const { plans, separator, encoding } = job.inspection;
    const keys = job.landing?.keys(plans) ?? fieldKeys(plans.map((plan) => plan.name));
    const sent = this.onLoaded && !job.landing ? new SentLines(job.path) : undefined;
    try {
      await client.query('BEGIN');
      const {
        rows: [next],
      } = await client.query(`SELECT nextval(pg_get_serial_sequence('sorvik.datasets', 'number')) AS number`);
      const number = Number(next.number);
      const loaded = await loadRows(
        client,
        {
          path: job.path,
          unquoted: job.unquoted,
          arriving,
          encoding,
          separator,
          plans,
          keys,
          table: tableOf(number),
          sent,
        },
        async (progress) => {
          await this.database.room.ensureNow();
          const { bytes: bytesRead, rows, rejected } = progress;
          Object.assign(job, { bytesRead, rows, rejected });
          job.follow?.({ bytesRead, rows, rejected });
        },
        job.abort.signal,
      );
      if (agreed && !(await agreed)) throw job.abort.signal.reason;
      loaded.rejects.push(...job.setAside);
      loaded.rejected += job.setAside.length;
      if (loaded.rows === 0)
        throw new UnusableFile(tell('jobs.noRowsCouldBe', { problem: firstProblem(loaded.rejects) }));
      if (job.landing) {
        await client.query('INSERT INTO sorvik.staged (number) VALUES ($1)', [number]);
        await readyTable(client, tableOf(number));
        if (job.abort.signal.aborted) throw job.abort.signal.reason;
        await client.query('COMMIT');
        job.staged = { number, file: job.file, inspection: job.inspection, keys, ...loaded };
        Object.assign(job, { bytesRead: job.bytesTotal, rows: loaded.rows, rejected: loaded.rejected });
        return '';
      }
      const { id, version } = await keepDataset(client, job, number, keys, loaded);
      if (job.abort.signal.aborted) throw job.abort.signal.reason;
      await client.query('COMMIT');
      // Answers are right without it; the next start makes up for one that is broken off.
      readyTable(this.database.pool, tableOf(number)).catch(() => {});
      this.onLoaded?.(
        { id, number, version, shaped: version, rows: loaded.rows, places: loaded.rows },
        (await sent?.end()) ?? null,
      );
      const ended = { bytesRead: job.bytesTotal, rows: loaded.rows, rejected: loaded.rejected };
      Object.assign(job, ended);
      job.follow?.(ended);
      return id;
    } catch (error) {
      await sent?.remove();
      throw error;
    }
  }
}
