import { randomUUID } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import type { Readable } from 'node:stream';
import type { ImportView, Reject } from '@sorvik/core/board/api-types';
import { idFrom } from '@sorvik/core/board/id';
import { eq, inArray, like, or } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import type pg from 'pg';
import type { Logger } from 'pino';
import type { Database, Db } from '../db/client';
import { tableOf } from '../db/client';
import * as schema from '../db/schema';
import { failureProblem, HttpProblem, invalid, notFound } from '../http/problem';
import { cutText } from '../http/well-formed';
import type { CopiedDataset } from '../sources/copies/copies';
import { tell } from '../tell';
import type { ColumnPlan } from './column-plan';
import { UnclosedQuote } from './csv-rows';
import { fieldKeys } from './field-keys';
import { type Inspection, inspectFile, UnusableFile } from './inspect';
import { loadRows, WiderColumn } from './load';
import { answered, questionsOf, wrongAnswers } from './questions';
import { spooled } from './spooled';
import { TextWatch } from './text-file';

interface Job extends ImportView {
  path: string;
  inspection: Inspection;
  abort: AbortController;
  touched: number;
}

const maxBytes = 8 * 1024 ** 3;
const lockOfIds = 7302;
const forgetAfter = 3_600_000;
const separatorNames: Record<string, string> = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'bar' };

/** Where and why the first row of a file did not fit. */
const firstProblem = ([first]: readonly Reject[]): string =>
  first ? tell('jobs.firstProblemLine', { n: first.line, reason: first.reason }) : tell('jobs.theFileHasNo');

/** Files on their way to becoming datasets. A file is kept on disk until it is loaded, then removed. */
export class ImportJobs {
  /** Hears of each dataset that came in. */
  onLoaded?: (dataset: CopiedDataset) => void;

  private readonly jobs = new Map<string, Job>();

  constructor(
    private readonly database: Database,
    /** Where files are kept while they are read. */
    readonly folder: string,
    private readonly log: Logger,
  ) {}

  /** Clears what a killed server left behind. */
  async prepare(): Promise<void> {
    await rm(this.folder, { recursive: true, force: true });
    await mkdir(this.folder, { recursive: true });
  }

  view(id: string): ImportView {
    const { path: _path, inspection: _inspection, abort: _abort, touched: _touched, ...view } = this.find(id);
    return view;
  }

  /** Takes in a file, finds out how it is written, and starts loading it unless there is something to ask. */
  async receive(name: string, source: Readable): Promise<ImportView> {
    this.forgetOld();
    const id = randomUUID();
    const path = join(this.folder, id);
    const watch = new TextWatch();
    const { room } = this.database;
    try {
      await spooled(source, path, { room, most: maxBytes, tooLarge: tell('jobs.aFileCanHave') }, (bytes) =>
        watch.see(bytes),
      );
      if (watch.binary) throw new HttpProblem(415, 'not-a-text-file', tell('jobs.isNotACsv', { name }));
      const inspection = await inspectFile(path, watch.bytes, watch.encoding);
      const questions = questionsOf(inspection.plans);
      const job: Job = {
        id,
        file: name,
        path,
        inspection,
        abort: new AbortController(),
        touched: Date.now(),
        state: questions.length ? 'asking' : 'loading',
        questions,
        bytesRead: 0,
        bytesTotal: watch.bytes,
        rows: 0,
        rejected: 0,
      };
      this.jobs.set(id, job);
      if (job.state === 'loading') void this.load(job);
      return this.view(id);
    } catch (error) {
      await rm(path, { force: true });
      if (error instanceof UnusableFile) throw new HttpProblem(422, 'file-cannot-be-used', error.message);
      throw error;
    }
  }

  /** Loads a file whose columns are known; gives the id of its dataset. Throws with the reason where it cannot. */
  async loadAs(name: string, source: Readable, plans: ColumnPlan[]): Promise<string> {
    const id = randomUUID();
    const path = join(this.folder, id);
    const { room } = this.database;
    const bytes = await spooled(source, path, {
      room,
      most: maxBytes,
      tooLarge: tell('jobs.aFileCanHave2'),
    });
    const job: Job = {
      id,
      file: name,
      path,
      inspection: { encoding: 'utf-8', separator: ',', plans, notes: [] },
      abort: new AbortController(),
      touched: Date.now(),
      state: 'loading',
      questions: [],
      bytesRead: 0,
      bytesTotal: bytes,
      rows: 0,
      rejected: 0,
    };
    this.jobs.set(id, job);
    await this.load(job);
    if (job.dataset !== undefined && job.rejected > 0) await this.forget(job.dataset);
    if (job.dataset === undefined || job.rejected > 0)
      throw new HttpProblem(
        422,
        'file-cannot-be-used',
        `${name}: ${job.message ?? tell('jobs.rowsDoNotFit', { n: job.rejected })}`,
      );
    return job.dataset;
  }

  /** Settles the columns asked about and starts loading. */
  answer(id: string, answers: Record<string, string>): ImportView {
    const job = this.find(id);
    if (job.state !== 'asking') throw new HttpProblem(409, 'nothing-to-answer', tell('jobs.thisImportIsNot'));
    const errors = wrongAnswers(job.questions, answers);
    if (errors.length) throw invalid(errors);
    job.inspection.plans = job.inspection.plans.map((plan) => answered(plan, answers[plan.name]));
    job.state = 'loading';
    void this.load(job);
    return this.view(id);
  }

  async cancel(id: string): Promise<void> {
    const job = this.find(id);
    if (job.state !== 'asking' && job.state !== 'loading') return;
    job.state = 'cancelled';
    job.abort.abort(new Error('cancelled'));
    await rm(job.path, { force: true });
  }

  /** Ends all work, for the server's own end. */
  async close(): Promise<void> {
    await Promise.all([...this.jobs.keys()].map((id) => this.cancel(id)));
  }

  /** Takes a dataset back that nobody has seen yet; the next purge removes its rows. */
  async forget(dataset: string): Promise<void> {
    await this.database.db
      .update(schema.datasets)
      .set({ deletedAt: new Date(0).toISOString() })
      .where(eq(schema.datasets.id, dataset));
  }

  /** The names of files that are still needed. */
  files(): ReadonlySet<string> {
    return new Set(this.jobs.keys());
  }

  private find(id: string): Job {
    const job = this.jobs.get(id);
    if (!job) throw notFound('import', id);
    job.touched = Date.now();
    return job;
  }

  private forgetOld(): void {
    for (const job of this.jobs.values()) {
      if (job.state === 'loading' || Date.now() - job.touched < forgetAfter) continue;
      void rm(job.path, { force: true });
      this.jobs.delete(job.id);
    }
  }

  private async load(job: Job): Promise<void> {
    const client = await this.database.pool.connect().catch((error: Error) => error);
    try {
      if (client instanceof Error) throw client;
      for (;;) {
        try {
          job.dataset = await this.attempt(client, job);
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
      job.state = 'done';
    } catch (error) {
      if (job.state !== 'cancelled') {
        job.state = 'failed';
        const known = error instanceof UnclosedQuote || error instanceof UnusableFile;
        job.message = known ? error.message : (failureProblem(error)?.detail ?? tell('jobs.theRowsCouldNot'));
        if (!known) this.log.error({ err: error, import: job.id }, 'import failed');
      }
    } finally {
      // A connection on which a copy broke off is not used again.
      if (!(client instanceof Error)) client.release(job.state !== 'done');
      await rm(job.path, { force: true });
    }
  }

  /** One pass over the file in one transaction: either everything of it is there afterwards, or nothing. */
  private async attempt(client: pg.PoolClient, job: Job): Promise<string> {
    const { plans, separator, encoding, notes } = job.inspection;
    const keys = fieldKeys(plans.map((plan) => plan.name));
    await client.query('BEGIN');
    const {
      rows: [next],
    } = await client.query(`SELECT nextval(pg_get_serial_sequence('sorvik.datasets', 'number')) AS number`);
    const number = Number(next.number);
    const loaded = await loadRows(
      client,
      { path: job.path, encoding, separator, plans, keys, table: tableOf(number) },
      async (progress) => {
        await this.database.room.ensureNow();
        job.bytesRead = progress.bytes;
        job.rows = progress.rows;
        job.rejected = progress.rejected;
      },
      job.abort.signal,
    );
    if (loaded.rows === 0)
      throw new UnusableFile(tell('jobs.noRowsCouldBe', { problem: firstProblem(loaded.rejects) }));
    const db: Db = drizzle(client, { schema });
    const name = cutText(basename(job.file, extname(job.file)).trim(), 200) || 'Dataset';
    // Two files of one name that come in at once take turns in choosing their ids.
    await client.query('SELECT pg_advisory_xact_lock($1)', [lockOfIds]);
    const stem = idFrom(name, [], 'dataset');
    const taken = await db
      .select({ id: schema.datasets.id })
      .from(schema.datasets)
      .where(or(inArray(schema.datasets.id, [stem]), like(schema.datasets.id, `${stem}-%`)));
    const id = idFrom(
      name,
      taken.map((row) => row.id),
      'dataset',
    );
    const source = { file: job.file, encoding, separator: separatorNames[separator] ?? separator, notes };
    const version = Date.now();
    await db.insert(schema.datasets).values({
      id,
      number,
      name,
      version,
      rows: loaded.rows,
      rejected: loaded.rejected,
      source,
    });
    await db
      .insert(schema.fields)
      .values(plans.map((plan, place) => fieldRow(id, keys[place]!, plan, place)));
    await insertRejects(db, id, loaded.rejects);
    if (job.abort.signal.aborted) throw job.abort.signal.reason;
    await client.query('COMMIT');
    await client.query(`ANALYZE ${tableOf(number)}`);
    this.onLoaded?.({ id, number, version, rows: loaded.rows });
    job.bytesRead = job.bytesTotal;
    job.rows = loaded.rows;
    job.rejected = loaded.rejected;
    return id;
  }
}

const fieldRow = (dataset: string, key: string, plan: ColumnPlan, place: number) => ({
  dataset,
  key,
  name: plan.name,
  type: plan.type,
  place,
});

async function insertRejects(db: Db, dataset: string, rejects: Reject[]) {
  // PostgreSQL's JSON has no zero character; where one is the very reason, a visible sign stands for it.
  const clean = (text: string) => text.replaceAll('\0', '␀');
  for (let i = 0; i < rejects.length; i += 2000)
    await db.insert(schema.importRejects).values(
      rejects.slice(i, i + 2000).map((reject) => ({
        ...reject,
        dataset,
        reason: clean(reject.reason),
        cells: reject.cells.map(clean),
      })),
    );
}
