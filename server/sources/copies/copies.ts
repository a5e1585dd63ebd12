import { existsSync } from 'node:fs';
import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { CopyView } from '@sorvik/core/board/api-types';
import type { Logger } from 'pino';
import { type Field, fieldsOf, findDataset } from '../../datasets/store';
import type { Database } from '../../db/client';
import { inNaturalOrder } from '../../db/natural-order';
import { type LineFiles, removeLines } from '../../imports/sent-lines';
import type { Restriction } from '../restriction';
import { OtherVersion } from '../source';
import { CopySource, copyDialect } from './copy-source';
import { Engine, type EngineLimits, literal } from './engine';
import { isExactRule } from './exact';
import { catchUp, makeCopy, type Stamp } from './make-copy';
import { type RollUpOptions, RollUps, usualRollUps } from './roll-ups';

export interface CopyOptions extends EngineLimits {
  rollUps?: RollUpOptions;
  /** Where the files are, one for each dataset. */
  folder: string;
  /** Datasets of fewer rows are answered by PostgreSQL soon enough. */
  fewestRows: number;
}

/** Answers of a PostgreSQL table of so many rows take a moment. */
export const usualFewestRows = 20_000;

export interface CopiedDataset {
  id: string;
  number: number;
  version: number;
  /** The version in which its fields or its table last became others. */
  shaped: number;
  rows: number;
  places: number;
  /** Of a table in place nothing is copied. */
  connection?: string | null;
}

const tableIn = ({ alias }: Ready) => `${alias}.rows`;

/** A file that questions under way still hold is let go of soon. */
const mostTries = 10;

/** Whether a copy is about to be there. */
export const isOnItsWay = (copy: CopyView | undefined): boolean =>
  copy?.state === 'making' || copy?.state === 'waiting';

/** What the column store says of a file that is damaged, or no longer there. */
const spoilt = /^(IO|Serialization|Catalog|FATAL|INTERNAL)\b|corrupt|checksum/i;

/** A copy that can be asked. */
interface Ready {
  stamp: Stamp;
  alias: string;
  file: string;
  /** It can be written to. */
  open: boolean;
}

/** A dataset of which a copy is to be made, and where what was sent to the database for it lies. */
interface Wanted extends CopiedDataset {
  lines?: LineFiles[] | null;
}

interface Making extends Wanted {
  done: number;
  abort: AbortController;
}

/**
 * The column copies of datasets: made in the background, one after the other, and found again at the next start. What
 * is missing, damaged, half made or of another version is made anew. Nothing depends on them: PostgreSQL has all.
 */
export class Copies {
  private readonly ready = new Map<string, Ready>();
  private readonly wanted = new Map<string, Wanted>();
  /** Copies that are being brought to what their datasets are by now. */
  private readonly following = new Map<string, Promise<void>>();
  /** What datasets were since the version of which a copy could not be made. */
  private readonly failed = new Map<string, number>();
  private making: Making | null = null;
  private working: Promise<void> | null = null;
  /** Copies that are being let go of, to be made anew. */
  private readonly going = new Set<Promise<void>>();
  private attached = 0;
  private closed = false;

  /** What is asked of them again and again. */
  readonly rollUps: RollUps;

  private constructor(
    private readonly database: Database,
    private readonly engine: Engine,
    private readonly options: CopyOptions,
    private readonly log: Logger,
  ) {
    this.rollUps = new RollUps(engine, options.rollUps ?? usualRollUps, copyDialect);
  }

  /** Finds the copies that are there, and begins to make those that are not. */
  static async open(database: Database, options: CopyOptions, log: Logger): Promise<Copies> {
    await mkdir(options.folder, { recursive: true });
    const engine = await Engine.open(options.folder, options);
    const copies = new Copies(database, engine, options, log);
    await copies.find();
    return copies;
  }

  private fileOf = ({ number }: CopiedDataset) => join(this.options.folder, `d_${number}.duckdb`);

  private async find(): Promise<void> {
    const { rows } = await this.database.pool.query(
      'SELECT id, number, version, shaped, rows, places FROM sorvik.datasets WHERE deleted_at IS NULL AND connection IS NULL',
    );
    const datasets = rows as CopiedDataset[];
    const files = new Set(datasets.map(this.fileOf));
    for (const name of await readdir(this.options.folder)) {
      const path = join(this.options.folder, name);
      if (!files.has(path)) await rm(path, { force: true, recursive: true });
    }
    for (const dataset of datasets) if (!(await this.take(dataset))) this.want(dataset);
  }

  /** Attaches a file. One that was let go of just now is still held by the questions under way: they are let finish. */
  private async attach(file: string, alias: string, how: string): Promise<void> {
    for (let tries = 1; ; tries++)
      try {
        await this.engine.ask(`ATTACH ${literal(file)} AS ${alias} ${how}`);
        return;
      } catch (error) {
        if (tries === mostTries || !/already attached|file handle conflict/i.test((error as Error).message))
          throw error;
        await new Promise((go) => setTimeout(go, 20 * tries));
      }
  }

  /** Takes the file of a dataset into use; false where there is none that can be used, which is then gone. */
  private async take(dataset: CopiedDataset): Promise<boolean> {
    const file = this.fileOf(dataset);
    if (!existsSync(file)) return false;
    const alias = `copy_${++this.attached}`;
    try {
      await this.attach(file, alias, '(READ_ONLY)');
      const found = await this.engine.ask(`SELECT version, shaped, seq, places, rows FROM ${alias}.stamp`);
      const [version = 0, shaped = 0, seq = 0, places = 0, rows = -1] = (found.getRows()[0] ?? []).map(
        Number,
      );
      const stamp = { version, shaped, seq, places, rows };
      const isWhole = version !== dataset.version || rows === dataset.rows;
      if (shaped === dataset.shaped && isWhole) {
        await this.leave(dataset.id);
        this.ready.set(dataset.id, { stamp, alias, file, open: false });
        return true;
      }
    } catch (error) {
      this.log.warn({ err: error, dataset: dataset.id }, 'a column copy cannot be read');
    }
    await this.engine.ask(`DETACH DATABASE IF EXISTS ${alias}`).catch(() => {});
    await rm(file, { force: true });
    await rm(`${file}.wal`, { force: true });
    return false;
  }

  /** Lets go of a copy; questions under way end with it and are asked of PostgreSQL. */
  private async leave(id: string): Promise<void> {
    const held = this.ready.get(id);
    this.ready.delete(id);
    if (!held) return;
    await this.rollUps.leave(id);
    await this.engine.ask(`DETACH ${held.alias}`).catch(() => {});
  }

  /** A dataset has come in; of `lines`, what was sent to the database for it, its copy is made soonest. */
  loaded(dataset: CopiedDataset, lines: LineFiles[] | null): void {
    this.want({ ...dataset, lines });
    if (this.wanted.get(dataset.id)?.lines !== lines && this.making?.lines !== lines) void removeLines(lines);
  }

  /** Asks for a copy of a dataset as it is now, where there is none yet. */
  want(dataset: Wanted): void {
    if (this.closed || dataset.connection || dataset.rows < this.options.fewestRows) return;
    const { id, version, shaped } = dataset;
    if (this.ready.get(id)?.stamp.shaped === shaped) {
      void this.follow(dataset);
      return;
    }
    if (this.failed.get(id) === shaped) return;
    if (this.making?.id === id) {
      // Rows that came meanwhile are added to it once it is made.
      if (this.making.shaped === shaped) return;
      this.making.abort.abort(new OtherVersion(version));
    }
    void removeLines(this.wanted.get(id)?.lines ?? null);
    this.wanted.set(id, dataset);
    this.working ??= this.work().finally(() => {
      this.working = null;
    });
  }

  private async work(): Promise<void> {
    for (;;) {
      const [next] = this.wanted.values();
      if (!next || this.closed) return;
      this.wanted.delete(next.id);
      await this.make(next);
    }
  }

  private async make(dataset: Wanted): Promise<void> {
    const { id, shaped } = dataset;
    const making: Making = { ...dataset, done: 0, abort: new AbortController() };
    this.making = making;
    const part = `${this.fileOf(dataset)}.part`;
    try {
      await rm(part, { force: true });
      const fields = await fieldsOf(this.database.db, id);
      const { lines = null, version, rows, places } = dataset;
      const seq = await this.seqOf(dataset);
      const made = (lines: LineFiles[] | null) =>
        makeCopy(
          this.engine,
          this.database,
          { id, version, shaped, seq, rows, places, fields, lines },
          part,
          (rows) => {
            making.done = rows;
          },
          making.abort.signal,
        );
      await made(lines).catch(async (error) => {
        if (!lines || making.abort.signal.aborted || error instanceof OtherVersion) throw error;
        // What was sent cannot be read by the column store: the database writes it again.
        this.log.warn({ err: error, dataset: id }, 'a column copy is made of the table');
        await rm(part, { force: true });
        return made(null);
      });
      await rename(part, this.fileOf(dataset));
      if (await this.take(dataset)) await this.follow(dataset, true);
      else this.failed.set(id, shaped);
    } catch (error) {
      // Whoever changed it wants a copy of what it is now; whatever else is in the way will be so again.
      if (!(error instanceof OtherVersion) && !making.abort.signal.aborted) {
        this.failed.set(id, shaped);
        this.log.warn({ err: error, dataset: id }, 'a column copy could not be made');
      }
    } finally {
      await removeLines(dataset.lines ?? null).catch(() => {});
      await rm(part, { force: true }).catch(() => {});
      await rm(`${part}.wal`, { force: true }).catch(() => {});
      this.making = null;
      // What was told of the dataset says how far its copy is.
      this.database.changes.tell();
    }
  }

  /** What answers for a dataset in the state that is asked for; null where no copy does. */
  of(dataset: CopiedDataset, fields: readonly Field[], restriction: Restriction | null): CopySource | null {
    if (restriction && !isExactRule(restriction.rule, fields)) return null;
    const held = this.ready.get(dataset.id);
    if (held?.stamp.shaped !== dataset.shaped) this.want(dataset);
    else if (!existsSync(held.file)) this.makeAnew(dataset);
    else if (held.stamp.version < dataset.version) this.want(dataset);
    else {
      const { stamp } = held;
      return new CopySource(
        this.engine,
        tableIn(held),
        { ...stamp, fields },
        restriction,
        (texts) => inNaturalOrder(this.database, texts),
        (question, patient) => this.rollUps.of(dataset.id, stamp, tableIn(held), fields, question, patient),
      );
    }
    return null;
  }

  /** How many copies are ready, and how many are still to be made. */
  counts(): { ready: number; waiting: number } {
    return { ready: this.ready.size, waiting: this.wanted.size + (this.making ? 1 : 0) };
  }

  /** Resolves once a copy that only lacks rows has them: sooner than PostgreSQL would answer. */
  async caughtUp(dataset: CopiedDataset): Promise<void> {
    const held = this.ready.get(dataset.id);
    if (held?.stamp.shaped !== dataset.shaped || held.stamp.version >= dataset.version) return;
    if (existsSync(held.file)) await this.follow(dataset);
  }

  /** The last version of the rows whose places end where those of the dataset do. */
  private async seqOf({ id, places }: CopiedDataset): Promise<number> {
    const { rows } = await this.database.pool.query(
      'SELECT coalesce(max(seq), 0) AS seq FROM sorvik.dataset_versions WHERE dataset = $1 AND places <= $2',
      [id, places],
    );
    return Number(rows[0].seq);
  }

  /** Brings a copy to what its dataset is by now; where that cannot be, it is made anew. Does not throw. */
  private follow(dataset: CopiedDataset, making = false): Promise<void> {
    const { id } = dataset;
    const held = this.ready.get(id);
    if (!held || this.closed) return Promise.resolve();
    if (held.stamp.version >= dataset.version && !making) return Promise.resolve();
    const known = this.following.get(id);
    // What is under way may have begun before what it is asked for.
    if (known) return known.then(() => this.follow(dataset));
    const going = this.bringUp(dataset, held)
      .catch((error) => {
        if (!(error instanceof OtherVersion))
          this.log.warn({ err: error, dataset: id }, 'a column copy could not be brought up to date');
        this.makeAnew(dataset);
      })
      .finally(() => this.following.delete(id));
    this.following.set(id, going);
    return going;
  }

  private async bringUp(dataset: CopiedDataset, held: Ready): Promise<void> {
    const current = await findDataset(this.database.db, dataset.id);
    if (current.shaped !== held.stamp.shaped) throw new OtherVersion(current.version);
    if (current.version === held.stamp.version) return;
    const fields = await fieldsOf(this.database.db, dataset.id);
    if (!held.open) await this.openToWrite(held);
    const before = held.stamp;
    const after = await catchUp(this.engine, this.database, { id: dataset.id, fields }, held);
    await this.rollUps.follow(dataset.id, before, after, tableIn(held), fields);
    held.stamp = after;
  }

  /** Takes a copy anew so that it can be written to. Questions that are under way are let finish first. */
  private async openToWrite(held: Ready): Promise<void> {
    const alias = `copy_${++this.attached}`;
    await this.engine.ask(`DETACH ${held.alias}`);
    await this.attach(held.file, alias, '');
    Object.assign(held, { alias, open: true });
  }

  /** A copy did not answer: one that is gone or damaged is made anew. */
  didNotAnswer(dataset: CopiedDataset, table: string, error: Error): void {
    // One that was taken anew meanwhile, to be written to, is as good as before.
    const held = this.ready.get(dataset.id);
    if (held && tableIn(held) !== table) return;
    this.log.warn({ err: error, dataset: dataset.id }, 'a column copy did not answer');
    if (spoilt.test(error.message)) this.makeAnew(dataset);
  }

  private makeAnew(dataset: CopiedDataset): void {
    if (!this.ready.has(dataset.id)) return;
    this.database.changes.tell();
    const gone = this.leave(dataset.id)
      .then(() => rm(this.fileOf(dataset), { force: true }))
      .then(() => rm(`${this.fileOf(dataset)}.wal`, { force: true }))
      .catch((error) => this.log.warn({ err: error, dataset: dataset.id }, 'a column copy cannot be removed'))
      .then(() => findDataset(this.database.db, dataset.id))
      .then((now) => this.want(now))
      // It has been deleted, or the database is away: whoever asks next wants it.
      .catch(() => {})
      .finally(() => this.going.delete(gone));
    this.going.add(gone);
  }

  /** Resolves once the copy of a dataset is there, or is not to be. */
  async made(dataset: CopiedDataset): Promise<void> {
    this.want(dataset);
    while (this.working && isOnItsWay(this.view(dataset)))
      await Promise.race([this.working, new Promise((go) => setTimeout(go, 50))]);
  }

  /** How far the copy of a dataset is. */
  view({ id, shaped, rows }: CopiedDataset): CopyView {
    if (this.ready.get(id)?.stamp.shaped === shaped) return { state: 'ready' };
    if (this.making?.id === id && this.making.shaped === shaped)
      return { state: 'making', share: rows ? Math.min(1, this.making.done / rows) : 0 };
    if (this.failed.get(id) === shaped) return { state: 'failed' };
    return { state: this.wanted.get(id)?.shaped === shaped ? 'waiting' : 'none' };
  }

  /** Resolves once nothing is left to be made. */
  async settled(): Promise<void> {
    while (this.working || this.going.size || this.following.size)
      await Promise.all([this.working, ...this.going, ...this.following.values()]);
    await this.rollUps.settled();
  }

  async close(): Promise<void> {
    this.closed = true;
    for (const { lines = null } of this.wanted.values()) await removeLines(lines);
    this.wanted.clear();
    this.making?.abort.abort(new Error('the server stops'));
    await this.settled();
    this.engine.close();
  }
}
