import { setTimeout } from 'node:timers/promises';
import type { ImportView } from '@sorvik/core/board/api-types';
import { datasetAt } from '@sorvik/core/data/table-address';
import { eq } from 'drizzle-orm';
import type { Logger } from 'pino';
import { mayChangeRows } from '../access/goes-on';
import { needOwnRows } from '../datasets/locked';
import { fieldsOf, findDataset } from '../datasets/store';
import type { Database } from '../db/client';
import { refreshSchedules } from '../db/schema';
import { failureProblem, HttpProblem } from '../http/problem';
import { UnusableFile } from '../imports/inspect';
import type { ImportJobs } from '../imports/jobs';
import type { Landing } from '../imports/landing';
import { isLong } from '../imports/wide';
import { tell } from '../tell';
import { refresh } from './apply';
import type { Known } from './origins/origin';
import type { originsOf } from './origins/origins';
import { findSchedule, nextTime, type StoredSchedule } from './schedule';
import { keyField, keysFor, plansFor, type Target } from './target-plans';
import type { Way } from './way';

/** The lock of a refresh that goes by a schedule is this number and one of its dataset. */
const lockOfRefreshes = 7302;
const look = 50;
/** So often a refresh that is under way says that it still is, ms. */
const pulse = 60_000;

/** Brings rows to datasets: from files that are sent, and from addresses. */
export class Refresher {
  constructor(
    readonly database: Database,
    readonly jobs: ImportJobs,
    readonly versionsKept: number,
    private readonly origins: ReturnType<typeof originsOf>,
    private readonly log: Logger,
  ) {}

  /** What becomes of a file that is for a dataset. Throws where it can have none. */
  async landing(id: string, { mode, by }: Way): Promise<Landing> {
    const { database } = this;
    const dataset = await findDataset(database.db, id);
    needOwnRows(dataset);
    const key = mode === 'merge' ? await keyField(database, id, by) : undefined;
    const fields = await fieldsOf(database.db, id);
    const target: Target = {
      name: dataset.name,
      mode,
      by: key,
      fields,
      formats: dataset.source.formats ?? {},
    };
    return {
      refresh: { dataset: id, mode, ...(key === undefined ? {} : { by: key }) },
      long: isLong(fields.map(({ name }) => name)),
      plan: (inspection) => plansFor(target, inspection),
      keys: (plans) => keysFor(fields, plans),
    };
  }

  /** Makes rows that wait those of their dataset. */
  async take(job: string): Promise<ImportView> {
    const { dataset, by, ...rows } = this.jobs.take(job);
    try {
      await refresh(this.database, dataset, { ...rows, by }, this.versionsKept);
    } catch (error) {
      this.jobs.giveBack(job);
      throw error;
    }
    return this.jobs.taken(job, dataset);
  }

  /** Whether rows can ever be fetched from an address. Throws with a sentence where they cannot. */
  check(address: string): Promise<void> {
    return this.origins.check(address);
  }

  /** Fetches the rows of an address as a dataset of its own. */
  async fetchAsOwn(address: string, name: string, signal: AbortSignal): Promise<ImportView> {
    const { body } = await this.origins.fetch(address, null, signal);
    return this.jobs.receive(name, body!);
  }

  /** Fetches an address for a dataset; null where nothing has changed since what is known. */
  async fetch(
    id: string,
    way: Way,
    address: string,
    known: Known | null,
    signal: AbortSignal,
  ): Promise<{ view: ImportView; known: Known } | null> {
    const landing = await this.landing(id, way);
    const { name, body, ...said } = await this.origins.fetch(address, known, signal);
    if (!body) return null;
    const view = await this.jobs.receive(name, body, landing);
    const digest = body.digest();
    if (known && digest === known.digest) {
      await this.jobs.cancel(view.id);
      return null;
    }
    return { view, known: { ...said, digest } };
  }

  /** Waits until what was fetched is there to be taken. Throws `UnusableFile` where it will not be. */
  private async staged(id: string, signal: AbortSignal): Promise<void> {
    for (;;) {
      const { state, message, questions } = this.jobs.view(id);
      if (state === 'staged') return;
      if (state === 'asking') {
        await this.jobs.cancel(id);
        throw new UnusableFile(tell('schedule.asks', { column: questions[0]?.column ?? '' }));
      }
      if (state !== 'loading') throw new UnusableFile(message ?? tell('jobs.theRowsCouldNot'));
      await setTimeout(look, undefined, { signal });
    }
  }

  /**
   * Refreshes a dataset from its address, as it is due. Throws where it fails, when that has been noted. One after the other,
   * on all servers: what was asked for while it was being done finds that nothing has changed since.
   */
  async run(id: string, signal: AbortSignal): Promise<void> {
    const client = await this.database.pool.connect();
    try {
      await client.query('SELECT pg_advisory_lock($1, hashtext($2))', [lockOfRefreshes, id]);
      await this.runAlone(id, signal);
    } finally {
      // Its connection ends with it, and so does the lock, however it ends.
      client.release(true);
    }
  }

  private async runAlone(id: string, signal: AbortSignal): Promise<void> {
    const schedule = await findSchedule(this.database.db, id);
    if (!schedule) return;
    const { address, mode, by, etag, modified, digest, setBy } = schedule;
    const beating = setInterval(() => void this.note(id, {}).catch(() => {}), pulse);
    try {
      if (setBy !== null) await this.needRights(setBy, id, address);
      const known = etag || modified || digest ? { etag, modified, digest } : null;
      const fetched = await this.fetch(id, { mode, by: by ?? undefined }, address, known, signal);
      if (fetched) {
        await this.staged(fetched.view.id, signal);
        await this.take(fetched.view.id);
      }
      await this.note(id, {
        ...(fetched ? { ...fetched.known, changedAt: now() } : {}),
        doneAt: now(),
        problem: null,
        failures: 0,
        nextAt: nextTime(schedule)?.toISOString() ?? null,
      });
    } catch (error) {
      const known = error instanceof UnusableFile || error instanceof HttpProblem;
      const told = error instanceof HttpProblem ? error.detail : (error as Error).message;
      const problem = known ? told : (failureProblem(error)?.detail ?? tell('jobs.theRowsCouldNot'));
      if (!known) this.log.error({ err: error, dataset: id }, 'a refresh failed');
      await this.note(id, { problem, failures: schedule.failures + 1 });
      throw error;
    } finally {
      clearInterval(beating);
    }
  }

  /** Throws where whoever has set a schedule may not change the rows any more, or not fetch those it brings. */
  private async needRights(person: string, dataset: string, address: string): Promise<void> {
    const origin = datasetAt(address);
    for (const each of origin === null ? [dataset] : [dataset, origin])
      if (!(await mayChangeRows(this.database, person, each)))
        throw new HttpProblem(403, 'not-allowed', tell('schedule.rightsGone'));
  }

  private async note(id: string, what: Partial<StoredSchedule>): Promise<void> {
    await this.database.db
      .update(refreshSchedules)
      .set({ ...what, triedAt: now() })
      .where(eq(refreshSchedules.dataset, id));
  }
}

const now = () => new Date().toISOString();
