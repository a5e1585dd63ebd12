import { Logger as JobLogger, type Runner, run } from 'graphile-worker';
import type { Logger } from 'pino';
import { lookUpTask, planLookUp } from '../datasets/looked-up';
import { dueLookUps, lookUpAgain } from '../datasets/lookups';
import type { Database } from '../db/client';
import type { Refresher } from './refresher';
import { findSchedule, nextTime } from './schedule';

const task = 'refresh';
/** So often what is due is looked for where nobody told of it, ms. */
const look = 2000;
/** After so many tries, each after a longer pause, the next time it is due is waited for. */
const mostTries = 6;

/** Of what is due and has not been heard of for so long, the server that began it is gone, ms. */
const late = 5 * 60_000;

const keyOf = (dataset: string) => `refresh:${dataset}`;

/**
 * Refreshes datasets when they are due, and looks up again what has changed elsewhere. What is to be done lies in the database: it is done once, whichever of several
 * servers does it, and by another one where one is killed.
 */
export class Scheduler {
  private runner: Runner | null = null;
  private again: ReturnType<typeof setInterval> | undefined;
  private readonly closing = new AbortController();

  constructor(
    private readonly database: Database,
    private readonly refresher: Refresher,
    private readonly log: Logger,
  ) {}

  /** Begins to do what is due. */
  async start(): Promise<void> {
    this.runner = await run({
      pgPool: this.database.pool,
      schema: 'sorvik_jobs',
      concurrency: 2,
      noHandleSignals: true,
      pollInterval: look,
      logger: new JobLogger(() => (level, message) => {
        if (level === 'error') this.log.warn({ scheduler: message }, 'a refresh is tried again');
      }),
      taskList: {
        [task]: (payload) => this.refresh((payload as { dataset: string }).dataset),
        [lookUpTask]: (payload) => lookUpAgain(this.database, (payload as { dataset: string }).dataset),
      },
    });
    // It is told of itself by its runner; whatever ends that ends no more than it.
    this.runner.promise.catch((error) => this.log.error({ err: error }, 'the scheduler stopped'));
    await this.takeUp();
    this.again = setInterval(() => {
      this.takeUp().catch((error) => this.log.warn({ err: error }, 'what is due cannot be looked up'));
    }, late / 5);
    this.again.unref();
  }

  /** Begins again what a server had begun that was killed meanwhile: the queue itself would wait for hours. */
  private async takeUp(): Promise<void> {
    const { rows } = await this.database.pool.query(
      `SELECT dataset FROM sorvik.refresh_schedules WHERE greatest(next_at, tried_at) < now() - $1 * interval '1 ms'`,
      [late],
    );
    for (const { dataset } of rows) await this.plan(dataset, true);
    for (const dataset of await dueLookUps(this.database)) await planLookUp(this.database.pool, dataset);
  }

  private async refresh(dataset: string): Promise<void> {
    try {
      await this.refresher.run(dataset, this.closing.signal);
    } catch (error) {
      const schedule = await findSchedule(this.database.db, dataset);
      if (schedule && schedule.failures < mostTries) throw error;
    }
    await this.plan(dataset);
  }

  /** Sees to it that a dataset is refreshed when its schedule comes round next; or now. */
  async plan(dataset: string, now = false): Promise<void> {
    const schedule = await findSchedule(this.database.db, dataset);
    const next = schedule && (now ? new Date() : nextTime(schedule));
    if (!next) return this.forget(dataset);
    await this.database.pool.query('UPDATE sorvik.refresh_schedules SET next_at = $2 WHERE dataset = $1', [
      dataset,
      next,
    ]);
    await this.runner?.addJob(
      task,
      { dataset },
      { jobKey: keyOf(dataset), runAt: next, maxAttempts: mostTries },
    );
  }

  async forget(dataset: string): Promise<void> {
    if (!this.runner) return;
    await this.database.pool.query('SELECT sorvik_jobs.remove_job($1)', [keyOf(dataset)]);
  }

  async close(): Promise<void> {
    clearInterval(this.again);
    this.closing.abort(new Error('the server stops'));
    await this.runner?.stop().catch(() => {});
  }
}
