import type { RefreshMode } from '@sorvik/core/board/api-types';
import { datasetAt, tableAddress } from '@sorvik/core/data/table-address';
import { IsIn, IsNotEmpty, IsOptional, IsString, Matches, MaxLength, ValidateBy } from 'class-validator';
import { eq } from 'drizzle-orm';
import type { Context } from 'hono';
import { findDataset } from '../datasets/store';
import { refreshSchedules } from '../db/schema';
import { HttpProblem, invalid } from '../http/problem';
import type { Routes } from '../http/routes';
import { ref } from '../http/schemas';
import { UnusableFile } from '../imports/inspect';
import { tell } from '../tell';
import type { Refresher } from './refresher';
import { findSchedule, nextTime, viewSchedule } from './schedule';
import type { Scheduler } from './scheduler';
import { refreshModes } from './way';

class AddressInput {
  @IsString()
  @IsNotEmpty()
  @MaxLength(2000)
  address!: string;

  @IsIn(refreshModes)
  mode!: RefreshMode;

  /** The key of the field by which rows are replaced, for `merge`. */
  @IsOptional()
  @IsString()
  @MaxLength(63)
  by?: string;
}

/** A time zone by its name in the IANA database. */
const isZone = (zone: unknown) => {
  try {
    return typeof zone === 'string' && new Intl.DateTimeFormat('en', { timeZone: zone }) !== null;
  } catch {
    return false;
  }
};

class ScheduleInput extends AddressInput {
  /** A cron expression: minute, hour, day of the month, month, day of the week. */
  @IsString()
  @MaxLength(100)
  @Matches(/^\s*(\S+\s+){4}\S+\s*$/, { message: () => tell('schedule.fiveParts') })
  cadence!: string;

  @ValidateBy({
    name: 'isZone',
    validator: { validate: isZone, defaultMessage: () => tell('schedule.noZone') },
  })
  @IsString()
  @MaxLength(60)
  zone!: string;
}

/** What cannot be fetched is told as what is wrong with it. */
const told = <T>(work: Promise<T>): Promise<T> =>
  work.catch((error) => {
    throw error instanceof UnusableFile ? new HttpProblem(422, 'file-cannot-be-used', error.message) : error;
  });

/** Refreshes from addresses and tables in place: once, or by themselves. */
export function addScheduleRoutes(
  routes: Routes,
  { refresher, scheduler }: { refresher: Refresher; scheduler: Scheduler },
): void {
  const { db } = refresher.database;
  const path = '/api/datasets/:id';
  const shown = async (id: string) => viewSchedule((await findSchedule(db, id))!);
  /** Rows that somebody may not read do not come in by way of another dataset. */
  const needOrigin = async (c: Context, address: string) => {
    const origin = datasetAt(address);
    if (origin !== null) await routes.access.also(c, 'dataset', origin, 'edit');
  };

  routes
    .add(
      {
        method: 'post',
        path: `${path}/refreshes/address`,
        needs: { dataset: 'edit' },
        summary: 'Fetch new rows from an address; they wait until they are taken',
        body: AddressInput,
        answers: { 201: ref('Import') },
      },
      async (c, { body }) => {
        const { address, mode, by } = body;
        await needOrigin(c, address);
        const fetched = await told(
          refresher.fetch(c.req.param('id')!, { mode, by }, address, null, c.req.raw.signal),
        );
        return c.json(fetched!.view, 201);
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/copies`,
        needs: { dataset: 'edit' },
        summary: 'Copy the rows of a table in place into a dataset of their own',
        answers: { 201: ref('Import') },
      },
      async (c) => {
        const { id, name } = await findDataset(db, c.req.param('id')!);
        const address = tableAddress(id);
        await refresher.check(address);
        return c.json(await told(refresher.fetchAsOwn(address, name, c.req.raw.signal)), 201);
      },
    )
    .add(
      {
        method: 'put',
        path: `${path}/schedule`,
        needs: { dataset: 'edit' },
        summary: 'Have a dataset refreshed by itself from an address',
        body: ScheduleInput,
        answers: { 200: ref('Schedule') },
      },
      async (c, { body }) => {
        const { id } = await findDataset(db, c.req.param('id')!);
        const { address, mode, by, cadence, zone } = body;
        await needOrigin(c, address);
        // What it could never do is said now.
        await refresher.landing(id, { mode, by });
        await refresher.check(address).catch((error) => {
          throw invalid([
            { pointer: '/address', message: error instanceof HttpProblem ? error.detail : error.message },
          ]);
        });
        let next: Date | null;
        try {
          next = nextTime({ cadence, zone });
        } catch {
          throw invalid([{ pointer: '/cadence', message: tell('schedule.fiveParts') }]);
        }
        if (!next) throw invalid([{ pointer: '/cadence', message: tell('schedule.never') }]);
        const setBy = (await routes.access.asker(c))?.id ?? null;
        const kept = {
          address,
          mode,
          by: mode === 'merge' ? by! : null,
          cadence: cadence.trim(),
          zone,
          setBy,
        };
        const before = await findSchedule(db, id);
        const anew = before?.address !== address ? { etag: null, modified: null, digest: null } : {};
        await db
          .insert(refreshSchedules)
          .values({ dataset: id, ...kept })
          .onConflictDoUpdate({
            target: refreshSchedules.dataset,
            set: { ...kept, ...anew, problem: null, failures: 0 },
          });
        await scheduler.plan(id);
        return c.json(await shown(id));
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/schedule/run`,
        needs: { dataset: 'edit' },
        summary: 'Refresh now instead of when it is due',
        answers: { 202: ref('Schedule') },
      },
      async (c) => {
        const { id } = await findDataset(db, c.req.param('id')!);
        if (!(await findSchedule(db, id)))
          throw new HttpProblem(409, 'nothing-to-answer', tell('schedule.none'));
        await scheduler.plan(id, true);
        return c.json(await shown(id), 202);
      },
    )
    .add(
      {
        method: 'delete',
        path: `${path}/schedule`,
        needs: { dataset: 'edit' },
        summary: 'No longer refresh a dataset by itself',
        answers: { 204: null },
      },
      async (c) => {
        const { id } = await findDataset(db, c.req.param('id')!);
        await db.delete(refreshSchedules).where(eq(refreshSchedules.dataset, id));
        await scheduler.forget(id);
        return c.body(null, 204);
      },
    );
}
