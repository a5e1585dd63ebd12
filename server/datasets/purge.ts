import { inArray, sql } from 'drizzle-orm';
import { type Database, tableOf } from '../db/client';
import { boards, datasets } from '../db/schema';

/** Removes for good what was deleted more than 30 days ago. */
export async function purgeDeleted({ db }: Database): Promise<void> {
  await db.transaction(async (tx) => {
    const old = await tx
      .select({ id: datasets.id, number: datasets.number })
      .from(datasets)
      .where(sql`${datasets.deletedAt} < now() - interval '30 days'`);
    for (const { number } of old) await tx.execute(sql.raw(`DROP TABLE IF EXISTS ${tableOf(number)}`));
    if (old.length)
      await tx.delete(datasets).where(
        inArray(
          datasets.id,
          old.map(({ id }) => id),
        ),
      );
    await tx.delete(boards).where(sql`${boards.deletedAt} < now() - interval '30 days'`);
  });
}
