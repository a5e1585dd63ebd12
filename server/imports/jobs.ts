import { randomUUID } from 'node:crypto';
import { mkdir, rename, rm } from 'node:fs/promises';
import { basename, join } from 'node:path';
import type { Readable } from 'node:stream';
import type { ImportView, RefreshMode } from '@sorvik/core/board/api-types';
import { eq } from 'drizzle-orm';
import type { Logger } from 'pino';
import type { Database } from '../db/client';
import * as schema from '../db/schema';
import { HttpProblem, invalid, notFound } from '../http/problem';
import { dropTables } from '../sources/postgres/row-table';
import { tell } from '../tell';
import type { ColumnPlan } from './column-plan';
import { type EarlyLoad, EarlyLoads } from './early-loads';
import type { SourceFile as FilePart } from './formats/format-kind';
import { isOfAnotherFormat, readFile } from './formats/read-file';
import { typed } from './formats/typed';
import { importedAs } from './imported-as';
import { type Inspection, inspectFile, UnusableFile } from './inspect';
import { type Job, jobOf, noteFailure, removeParts, watched } from './job';
import type { Landing, StagedRows } from './landing';
import { Loader } from './loader';
import { answered, wrongAnswers } from './questions';
import { settle } from './settle';
import { spooled } from './spooled';
import { TextWatch } from './text-file';

const maxBytes = 8 * 1024 ** 3;
const forgetAfter = 3_600_000;
const forgetStagedAfter = 8 * forgetAfter;

/** Files on their way to becoming datasets. A file is kept on disk until it is loaded, then removed. */
export class ImportJobs {
  readonly loader: Loader;
  private readonly jobs = new Map<string, Job>();
  private readonly parts = new Map<string, FilePart & { touched: number }>();
  private readonly early: EarlyLoads;

  constructor(
    private readonly database: Database,
    /** Where files are kept while they are read. */
    readonly folder: string,
    private readonly log: Logger,
  ) {
    this.loader = new Loader(database, log);
    this.early = new EarlyLoads(database, this.loader);
  }

  /** Clears what a killed server left behind. */
  async prepare(): Promise<void> {
    await rm(this.folder, { recursive: true, force: true });
    await mkdir(this.folder, { recursive: true });
  }

  /** Who has sent a file; undefined where there is none such, or nobody signs in. */
  sentBy(id: string): string | undefined {
    return this.jobs.get(id)?.by;
  }

  /** How far an import is; what it has become also where another server has done that. */
  async look(id: string): Promise<ImportView> {
    const known = this.jobs.has(id) ? null : await importedAs(this.database.db, id);
    return known ?? this.view(id);
  }

  /** Throws 409 where there is such an import already. */
  private async needNew(id: string): Promise<void> {
    if (this.jobs.has(id) || (await importedAs(this.database.db, id)))
      throw new HttpProblem(409, 'import-known', tell('jobs.importKnown'));
  }

  view(id: string): ImportView {
    const {
      path: _path,
      by: _by,
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
  async receive(
    name: string,
    source: Readable,
    landing?: Landing,
    id: string = randomUUID(),
  ): Promise<ImportView> {
    this.forgetOld();
    await this.needNew(id);
    // The same import may be sent once more while the server still finds out that its connection broke.
    const path = join(this.folder, randomUUID());
    const watch = new TextWatch();
    const { room } = this.database;
    let early: EarlyLoad | null = null;
    let foreign: boolean | undefined;
    try {
      await spooled(source, path, { room, most: maxBytes, tooLarge: tell('jobs.aFileCanHave') }, (bytes) => {
        watch.see(bytes);
        foreign ??= isOfAnotherFormat(bytes);
        if (!foreign && !landing && !early && this.early.mayBegin(watch))
          early = this.early.begin(id, name, path, watch);
      });
      if (foreign) return this.beginReading(id, name, path, watch, landing);
      if (watch.binary) throw new HttpProblem(415, 'not-a-text-file', tell('jobs.isNotACsv', { name }));
      const inspection = await inspectFile(path, watch.bytes, watch.encoding);
      const job = jobOf(id, name, path, inspection, watch);
      if (landing) Object.assign(job, { landing, refresh: landing.refresh });
      await settle(job);
      this.jobs.set(id, job);
      const begun = early as EarlyLoad | null;
      if (begun?.isFor(job)) begun.goOn(job, () => this.loader.load(job));
      else {
        await begun?.giveUp();
        if (job.state === 'loading') void this.loader.load(job);
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
  async receiveParts(
    ids: readonly string[],
    landing?: Landing,
    id: string = randomUUID(),
  ): Promise<ImportView> {
    await this.needNew(id);
    const parts = ids.map((part) => {
      const found = this.parts.get(part);
      if (!found) throw invalid([{ pointer: '/part', message: tell('jobs.aPartIsGone') }]);
      return found;
    });
    const [first] = parts;
    const path = join(this.folder, randomUUID());
    const bytes = parts.reduce((sum, part) => sum + part.bytes, 0);
    for (const part of ids) this.parts.delete(part);
    return this.beginReading(id, first!.name, path, { bytes, quoted: true }, landing, parts);
  }

  /** Goes on with a file whose columns were asked about. Does not throw. */
  private async resettle(job: Job, wide: string | undefined): Promise<void> {
    try {
      await settle(job, wide ?? 'wide');
      if (job.abort.signal.aborted) throw job.abort.signal.reason;
      if (job.state === 'loading') await this.loader.load(job);
    } catch (error) {
      await rm(`${job.path}.long`, { force: true });
      await this.failed(job, error);
    }
  }

  /** Notes why a file cannot be read, and removes it. */
  private async failed(job: Job, error: unknown): Promise<void> {
    await rm(job.path, { force: true });
    await removeParts(job);
    if (!noteFailure(job, error)) this.log.error({ err: error, import: job.id }, 'a file cannot be read');
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
      await removeParts(job);
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
      await settle(job);
      if (job.abort.signal.aborted) throw job.abort.signal.reason;
      if (job.state === 'loading') await this.loader.load(job);
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
    await this.loader.load(job);
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
      void this.loader.load(job);
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
    await removeParts(job);
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

  /** How many imports there are in each state. */
  states(): Record<string, number> {
    const counts: Record<string, number> = {};
    for (const { state } of this.jobs.values()) counts[state] = (counts[state] ?? 0) + 1;
    return counts;
  }

  /** The names of files that are still needed. */
  files(): ReadonlySet<string> {
    return new Set([...this.jobs.values(), ...this.parts.values()].map(({ path }) => basename(path)));
  }

  private find(id: string): Job {
    const job = this.jobs.get(id);
    if (!job) throw notFound('import', id);
    job.touched = Date.now();
    return job;
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
}
