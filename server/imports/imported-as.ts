import type { ImportView } from '@sorvik/core/board/api-types';
import { and, eq, isNull } from 'drizzle-orm';
import type { Db } from '../db/client';
import { datasets } from '../db/schema';

/** What an import has become, whichever server it was sent to; null where it is no dataset. */
export async function importedAs(db: Db, id: string): Promise<(ImportView & { dataset: string }) | null> {
  const [found] = await db
    .select({
      dataset: datasets.id,
      source: datasets.source,
      rows: datasets.rows,
      rejected: datasets.rejected,
    })
    .from(datasets)
    .where(and(eq(datasets.importId, id), isNull(datasets.deletedAt)));
  if (!found) return null;
  const { source, ...rest } = found;
  return { id, file: source.file, state: 'done', questions: [], bytesRead: 0, bytesTotal: 0, ...rest };
}
