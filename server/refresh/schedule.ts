import type { ScheduleView } from '@sorvik/core/board/api-types';
import { Cron } from 'croner';
import { eq } from 'drizzle-orm';
import type { Db } from '../db/client';
import { refreshSchedules } from '../db/schema';

export type StoredSchedule = typeof refreshSchedules.$inferSelect;

/** When a schedule comes round next; null for one that never does. Throws for one that is none. */
export function nextTime(
  { cadence, zone }: Pick<StoredSchedule, 'cadence' | 'zone'>,
  after = new Date(),
): Date | null {
  return new Cron(cadence, { timezone: zone, paused: true }).nextRun(after);
}

const iso = (time: string | null) => (time === null ? null : new Date(time).toISOString());

export async function findSchedule(db: Db, dataset: string): Promise<StoredSchedule | undefined> {
  const [found] = await db.select().from(refreshSchedules).where(eq(refreshSchedules.dataset, dataset));
  return found;
}

export const viewSchedule = ({
  dataset: _dataset,
  etag: _etag,
  modified: _modified,
  digest: _digest,
  setBy: _setBy,
  ...schedule
}: StoredSchedule): ScheduleView => ({
  ...schedule,
  nextAt: iso(schedule.nextAt),
  triedAt: iso(schedule.triedAt),
  doneAt: iso(schedule.doneAt),
  changedAt: iso(schedule.changedAt),
});
