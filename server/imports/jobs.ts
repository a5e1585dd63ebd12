import { randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { isDeepStrictEqual } from 'node:util';
import type { ImportView, RefreshMode, Reject } from '@sorvik/core/board/api-types';
import { eq } from 'drizzle-orm';
import type pg from 'pg';
import type { Logger } from 'pino';
import type { Database } from '../db/client';
import { tableOf } from '../db/client';
import * as schema from '../db/schema';
import { failureProblem, HttpProblem, invalid, notFound } from '../http/problem';
import type { CopiedDataset } from '../sources/copies/copies';
import { dropTables } from '../sources/postgres/row-table';
import { tell } from '../tell';
import type { ColumnPlan } from './column-plan';
import { UnclosedQuote } from './csv-rows';
import { fieldKeys } from './field-keys';
import type { SourceFile as FilePart } from './formats/format-kind';
import { isOfAnotherFormat, readFile } from './formats/read-file';
import { typed } from './formats/typed';
import { type Inspection, inspectFile, UnusableFile } from './inspect';
import { keepDataset } from './keep-dataset';
import type { Landing, StagedRows } from './landing';
import { loadRows, WiderColumn } from './load';
import { answered, questionsOf, wrongAnswers } from './questions';
import { type LineFiles, SentLines } from './sent-lines';
import { spooled } from './spooled';
import { type Arriving, TextWatch } from './text-file';
import { lengthen, wideQuestion } from './wide';

interface Job extends ImportView {
  path: string;
  inspection: Inspection;
  /** No quotation mark is in the file. */
  unquoted: boolean;
  abort: AbortController;
  touched: number;
  /** It is several files that become one. */
  parts?: readonly FilePart[];
  /** It is of a format that is turned into CSV first, and still has to be. */
  unread?: boolean;
  /** Rows that could not even be read as such. */
  setAside: Reject[];
  /** What it is for, where it is not to be a dataset of its own. */
  landing?: Landing;
  staged?: StagedRows | undefined;
  /** Hears how far it is. */
  follow?: (progress: Pick<ImportView, 'bytesRead' | 'rows' | 'rejected'>) => void;
}

const maxBytes = 8 * 1024 ** 3;
const forgetAfter = 3_600_000;
const forgetStagedAfter = 8 * forgetAfter;

/** Where and why the first row of a file did not fit. */
const firstProblem = ([first]: readonly Reject[]): string =>
  first ? tell('jobs.firstProblemLine', { n: first.line, reason: first.reason }) : tell('jobs.theFileHasNo');

/** What is to be known of a text that is already there. */
async function watched(path: string): Promise<TextWatch> {
  const watch = new TextWatch();
  for await (const chunk of createReadStream(path) as AsyncIterable<Buffer>) watch.see(chunk);
  return watch;
}

/** So much of a file has arrived before it begins to be loaded; so many are at a time. */
const earlyFrom = 4 * 1024 * 1024;
const mostEarly = 2;

function jobOf(
  id: string,
  file: string,
  path: string,
  inspection: Inspection,
  { bytes, quoted }: Pick<TextWatch, 'bytes' | 'quoted'>,
  questions: ImportView['questions'] = [],
): Job {
  return {
    id,
    file,
    path,
    inspection,
    unquoted: !quoted,
    setAside: [],
    abort: new AbortController(),
    touched: Date.now(),
    state: questions.length ? 'asking' : 'loading',
    questions,
    bytesRead: 0,
    bytesTotal: bytes,
    rows: 0,
    rejected: 0,
  };
}

/** A load that began while its file was still arriving: it ends when all of it is there and found to be as it began. */
interface EarlyLoad {
  isFor(job: Job): boolean;
  /** It was right: it becomes that of the job; where it comes to nothing, `otherwise` begins anew. */
  goOn(job: Job, otherwise: () => Promise<void>): void;
  giveUp(): Promise<void>;
}

/** Files on their way to becoming datasets. A file is kept on disk until it is loaded, then removed. */
export class ImportJobs {
  /** Hears of each dataset that came in, and gets what was sent to the database for it, to be removed when it is not needed. */
  onLoaded?: (dataset: CopiedDataset, lines: LineFiles[] | null) => void;

  private readonly jobs = new Map<string, Job>();
  private readonly parts = new Map<string, FilePart & { touched: number }>();
  /** How many are being loaded while they arrive. */
  private early = 0;

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
    const {
      path: _path,
      inspection: _inspection,
      unquoted: _unquoted,
      abort: _abort,
      touched: _touched,
      follow: _follow,
      landing: _landing,
      staged: _staged,
      unread: _unread,
      parts: _parts,
      setAside: _setAside,
      ...view
    } = this.find(id);
    return view;
  }

  /**
   * Takes in a file, finds out how it is written, and starts loading it unless there is something to ask. Loading begins
   * while the file still arrives, as its beginning has it; what then turns out to be otherwise is loaded anew. With a
   * `landing` its rows wait in a table of their own.
   */
  async receive(name: string, source: Readable, landing?: Landing): Promise<ImportView> {
    this.forgetOld();
    const id = randomUUID();
    const path = join(this.folder, id);
    const watch = new TextWatch();
    const { room } = this.database;
    let early: EarlyLoad | null = null;
    let foreign: boolean | undefined;
    try {
      await spooled(source, path, { room, most: maxBytes, tooLarge: tell('jobs.aFileCanHave') }, (bytes) => {
        watch.see(bytes);
        foreign ??= isOfAnotherFormat(bytes);
        if (
          !foreign &&
          !landing &&
          watch.bytes > earlyFrom &&
          !early &&
          this.early < mostEarly &&
          !watch.binary
        )
          early = this.beginEarly(id, name, path, watch);
      });
      if (foreign) return this.beginReading(id, name, path, watch, landing);
      if (watch.binary) throw new HttpProblem(415, 'not-a-text-file', tell('jobs.isNotACsv', { name }));
      const inspection = await inspectFile(path, watch.bytes, watch.encoding);
      const job = jobOf(id, name, path, inspection, watch);
      if (landing) Object.assign(job, { landing, refresh: landing.refresh });
      await this.settle(job);
      this.jobs.set(id, job);
      const begun = early as EarlyLoad | null;
      if (begun?.isFor(job)) begun.goOn(job, () => this.load(job));
      else {
        await begun?.giveUp();
        if (job.state === 'loading') void this.load(job);
      }
      return this.view(id);
    } catch (error) {
      await (early as EarlyLoad | null)?.giveUp();
      await rm(path, { force: true });
      if (error instanceof UnusableFile) throw new HttpProblem(422, 'file-cannot-be-used', error.message);
      throw error;
    }
  }

  /** Keeps a file until others are there that become one with it; gives what it is called by. */
  async receivePart(name: string, source: Readable): Promise<string> {
    this.forgetOld();
    const id = randomUUID();
    const path = join(this.folder, id);
    const { room } = this.database;
    try {
      const bytes = await spooled(source, path, {
        room,
        most: maxBytes,
        tooLarge: tell('jobs.aFileCanHave'),
      });
      this.parts.set(id, { path, name, bytes, touched: Date.now() });
    } catch (error) {
      await rm(path, { force: true });
      throw error;
    }
    return id;
  }

  /** Begins to read files that were sent in parts as one. Throws 422 where one of them is not there any more. */
  receiveParts(ids: readonly string[], landing?: Landing): ImportView {
    const parts = ids.map((part) => {
      const found = this.parts.get(part);
      if (!found) throw invalid([{ pointer: '/part', message: tell('jobs.aPartIsGone') }]);
      return found;
    });
    const [first] = parts;
    const id = randomUUID();
    const path = join(this.folder, id);
    const bytes = parts.reduce((sum, part) => sum + part.bytes, 0);
    for (const part of ids) this.parts.delete(part);
    return this.beginReading(id, first!.name, path, { bytes, quoted: true }, landing, parts);
  }

  /** Finds out how the columns of a job are read, and what has to be asked about them. Throws where they cannot be. */
  private async settle(job: Job, wide?: string): Promise<void> {
    const question = wide === undefined ? wideQuestion(job.inspection) : null;
    if (question && !job.landing) {
      Object.assign(job, { state: 'asking', questions: [question] });
      return;
    }
    if (wide === 'long' || (question && job.landing?.long)) {
      const out = `${job.path}.long`;
      await lengthen(job, out, job.abort.signal);
      await rename(out, job.path);
      const watch = await watched(job.path);
      const { notes, format } = job.inspection;
      const again = await inspectFile(job.path, watch.bytes, 'utf-8');
      job.inspection = { ...again, notes: [...notes, ...again.notes], ...(format ? { format } : {}) };
      job.unquoted = !watch.quoted;
      job.bytesTotal = watch.bytes;
    }
    if (job.landing) job.inspection = job.landing.plan(job.inspection);
    job.questions = questionsOf(job.inspection.plans);
    job.state = job.questions.length ? 'asking' : 'loading';
  }

  /** Goes on with a file whose columns were asked about. Does not throw. */
  private async resettle(job: Job, wide: string | undefined): Promise<void> {
    try {
      await this.settle(job, wide ?? 'wide');
      if (job.abort.signal.aborted) throw job.abort.signal.reason;
      if (job.state === 'loading') await this.load(job);
    } catch (error) {
      await rm(`${job.path}.long`, { force: true });
      await this.failed(job, error);
    }
  }

  /** Notes why a file cannot be read, and removes it. */
  private async failed(job: Job, error: unknown): Promise<void> {
    await rm(job.path, { force: true });
    await this.removeParts(job);
    if (job.state === 'cancelled') return;
    job.state = 'failed';
    const known = error instanceof UnusableFile || error instanceof UnclosedQuote;
    job.message = known ? error.message : (failureProblem(error)?.detail ?? tell('jobs.theRowsCouldNot'));
    if (!known || error.cause) this.log.error({ err: error, import: job.id }, 'a file cannot be read');
  }

  /** Begins to read a file of another format; what has to be asked is known once it has been looked at. */
  private beginReading(
    id: string,
    name: string,
    path: string,
    watch: Pick<TextWatch, 'bytes' | 'quoted'>,
    landing: Landing | undefined,
    parts?: readonly FilePart[],
  ): ImportView {
    const inspection: Inspection = { encoding: 'utf-8', separator: ',', plans: [], notes: [] };
    const job = jobOf(id, name, path, inspection, watch);
    Object.assign(job, { unread: true, note: tell('formats.reading') });
    if (parts) job.parts = parts;
    if (landing) Object.assign(job, { landing, refresh: landing.refresh });
    this.jobs.set(id, job);
    void this.readForeign(job, null);
    return this.view(id);
  }

  /** Turns a file into CSV and goes on with that, or asks what has to be known first. Does not throw. */
  private async readForeign(job: Job, answers: Record<string, string> | null): Promise<void> {
    const out = `${job.path}.csv`;
    const { room } = this.database;
    try {
      const files = job.parts ?? [{ path: job.path, name: job.file, bytes: job.bytesTotal }];
      const read = await readFile({ files, out, answers }, room, job.abort.signal);
      if ('questions' in read) {
        Object.assign(job, { state: 'asking', questions: read.questions });
        return;
      }
      await rename(out, job.path);
      await this.removeParts(job);
      const watch = await watched(job.path);
      job.inspection = typed(await inspectFile(job.path, watch.bytes, 'utf-8'), read);
      job.unread = false;
      job.note = undefined;
      job.unquoted = !watch.quoted;
      job.bytesTotal = watch.bytes;
      job.setAside = read.table.unread.map(({ line, reason, text }) => ({
        line,
        column: '',
        reason,
        cells: [text],
      }));
      await this.settle(job);
      if (job.abort.signal.aborted) throw job.abort.signal.reason;
      if (job.state === 'loading') await this.load(job);
    } catch (error) {
      await rm(out, { force: true });
      await this.failed(job, error);
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
    const inspection = { encoding: 'utf-8' as const, separator: ',', plans, notes: [] };
    const job = jobOf(id, name, path, inspection, { bytes, quoted: true });
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
    if (job.unread) {
      job.state = 'loading';
      void this.readForeign(job, answers);
      return this.view(id);
    }
    const isWide = job.questions.some(({ asks }) => asks === 'wide');
    job.state = 'loading';
    if (isWide) void this.resettle(job, answers['#wide']);
    else {
      job.inspection.plans = job.inspection.plans.map((plan) => answered(plan, answers[plan.name]));
      void this.load(job);
    }
    return this.view(id);
  }

  /** The rows of a file that wait for what becomes of them. Throws 409 where none do. */
  staged(id: string): StagedRows & { dataset: string; mode: RefreshMode; by: string | undefined } {
    const { staged, refresh, state } = this.find(id);
    if (state !== 'staged' || !staged || !refresh)
      throw new HttpProblem(409, 'nothing-to-answer', tell('refresh.noRowsWait'));
    const { dataset, mode, by } = refresh;
    return { ...staged, dataset, mode, by };
  }

  /** The same, for whoever takes them: nobody else can meanwhile. */
  take(id: string): ReturnType<ImportJobs['staged']> {
    const staged = this.staged(id);
    this.find(id).state = 'loading';
    return staged;
  }

  /** They could not be taken, and wait again. */
  giveBack(id: string): void {
    this.find(id).state = 'staged';
  }

  /** The rows that waited are those of a dataset now. */
  taken(id: string, dataset: string): ImportView {
    Object.assign(this.find(id), { state: 'done', dataset, staged: undefined });
    return this.view(id);
  }

  async cancel(id: string): Promise<void> {
    const job = this.find(id);
    if (job.state === 'staged') {
      job.state = 'cancelled';
      await this.drop(job);
    }
    if (job.state !== 'asking' && job.state !== 'loading') return;
    job.state = 'cancelled';
    job.abort.abort(new Error('cancelled'));
    await rm(job.path, { force: true });
    await this.removeParts(job);
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
    return new Set([...this.jobs.keys(), ...this.parts.keys()]);
  }

  private find(id: string): Job {
    const job = this.jobs.get(id);
    if (!job) throw notFound('import', id);
    job.touched = Date.now();
    return job;
  }

  private async removeParts({ parts = [] }: Job): Promise<void> {
    for (const { path } of parts) await rm(path, { force: true });
  }

  /** Lets go of rows that nobody wants. */
  private async drop(job: Job): Promise<void> {
    const { staged } = job;
    job.staged = undefined;
    if (!staged) return;
    await dropTables(this.database.pool, staged.number);
    await this.database.pool.query('DELETE FROM sorvik.staged WHERE number = $1', [staged.number]);
  }

  private forgetOld(): void {
    for (const [id, { path, touched }] of this.parts) {
      if (Date.now() - touched < forgetAfter) continue;
      void rm(path, { force: true });
      this.parts.delete(id);
    }
    for (const job of this.jobs.values()) {
      const longest = job.state === 'staged' ? forgetStagedAfter : forgetAfter;
      if (job.state === 'loading' || Date.now() - job.touched < longest) continue;
      void rm(job.path, { force: true });
      // What cannot be dropped now is when the server tidies up.
      void this.drop(job).catch(() => {});
      this.jobs.delete(job.id);
    }
  }

  private async load(job: Job): Promise<void> {
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
      if (job.state !== 'cancelled') {
        job.state = 'failed';
        const known = error instanceof UnclosedQuote || error instanceof UnusableFile;
        job.message = known ? error.message : (failureProblem(error)?.detail ?? tell('jobs.theRowsCouldNot'));
        if (!known) this.log.error({ err: error, import: job.id }, 'import failed');
      }
    } finally {
      // A connection on which a copy broke off is not used again.
      if (!(client instanceof Error)) client.release(job.state !== 'done' && job.state !== 'staged');
      await rm(job.path, { force: true });
    }
  }

  /** Begins to load a file of which the beginning is there. */
  private beginEarly(id: string, name: string, path: string, watch: TextWatch): EarlyLoad {
    this.early++;
    const arriving: Arriving = { whole: false };
    const abort = new AbortController();
    let job: Job | null = null;
    let agree: (right: boolean) => void = () => {};
    const agreed = new Promise<boolean>((done) => {
      agree = done;
    });
    const run = async (): Promise<boolean> => {
      const { encoding } = watch;
      const inspection = await inspectFile(path, watch.bytes, encoding, true);
      if (questionsOf(inspection.plans).length || wideQuestion(inspection)) return false;
      // It may have been given up before it has begun.
      abort.signal.throwIfAborted();
      job = { ...jobOf(id, name, path, inspection, watch), abort };
      const client = await this.database.pool.connect();
      let done = false;
      try {
        job.dataset = await this.attempt(client, job, { arriving, agreed });
        done = true;
      } finally {
        client.release(!done);
      }
      return done;
    };
    const running = run()
      .catch(() => false)
      .finally(() => {
        this.early--;
      });
    const isSame = (other: Job) =>
      job !== null &&
      other.state === 'loading' &&
      job.unquoted === other.unquoted &&
      isDeepStrictEqual(job.inspection, other.inspection);
    return {
      isFor: isSame,
      goOn: (later, otherwise) => {
        const own = job!;
        // From here on the one is the other: what it has read, and that it may be cancelled.
        later.abort.signal.addEventListener('abort', () => abort.abort(later.abort.signal.reason));
        own.follow = (progress) => Object.assign(later, progress);
        own.bytesTotal = later.bytesTotal;
        const { bytesRead, rows, rejected } = own;
        own.follow({ bytesRead, rows, rejected });
        arriving.whole = true;
        agree(true);
        void running.then(async (done) => {
          if (!done) return later.state === 'loading' ? otherwise() : undefined;
          later.dataset = own.dataset!;
          later.state = 'done';
          await rm(path, { force: true });
        });
      },
      giveUp: async () => {
        abort.abort(new Error('it is otherwise'));
        agree(false);
        arriving.whole = true;
        await running;
      },
    };
  }

  /**
   * One pass over the file in one transaction: either everything of it is there afterwards, or nothing. Of a file that is
   * still arriving nothing is kept before `agreed` says that it is as it was taken to be.
   */
  private async attempt(
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
        await client.query(`ANALYZE ${tableOf(number)}`);
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
      this.database.pool.query(`ANALYZE ${tableOf(number)}`).catch(() => {});
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
