import { setImmediate } from 'node:timers/promises';
import type { DeletedBoard } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import { idFrom } from '@sorvik/core/board/id';
import { readBoardInTurns } from '@sorvik/core/edit/read-board';
import { and, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { ownedByAsker } from '../access/asking';
import { atOnce, type Db } from '../db/client';
import { boards, boardVersions } from '../db/schema';
import { HttpProblem, invalid, notFound } from '../http/problem';
import { tell } from '../tell';

export type StoredBoard = Pick<
  typeof boards.$inferSelect,
  'id' | 'revision' | 'updatedAt' | 'document' | 'published' | 'publishedAt' | 'scratchOf' | 'scratchFrom'
>;
export type StoredVersion = Pick<StoredBoard, 'id' | 'revision' | 'updatedAt' | 'document'>;

const columns = {
  id: boards.id,
  revision: boards.revision,
  updatedAt: boards.updatedAt,
  document: boards.document,
  published: boards.published,
  publishedAt: boards.publishedAt,
  scratchOf: boards.scratchOf,
  scratchFrom: boards.scratchFrom,
};

/** A valid board, or an answer that points at what is wrong. */
export async function needBoard(input: unknown): Promise<Board> {
  // A large document takes a while: others get their turn between its charts.
  const reading = await readBoardInTurns(input, setImmediate);
  if (!reading.ok) throw invalid(reading.problems);
  return reading.board;
}

/** The ids of all boards. */
export const boardIds = (db: Db): Promise<{ id: string }[]> =>
  db.select({ id: boards.id }).from(boards).where(isNull(boards.deletedAt));

/** Some boards, the last changed first. */
export const listBoards = (db: Db, ids: readonly string[]): Promise<StoredBoard[]> =>
  db
    .select(columns)
    .from(boards)
    .where(and(isNull(boards.deletedAt), inArray(boards.id, [...ids])))
    .orderBy(desc(boards.updatedAt));

/** Boards that were deleted and are still there, the last one first. */
export async function deletedBoards(db: Db): Promise<DeletedBoard[]> {
  const found = await db
    .select({ id: boards.id, title: sql<string>`${boards.document}->>'title'`, deletedAt: boards.deletedAt })
    .from(boards)
    .where(isNotNull(boards.deletedAt))
    .orderBy(desc(boards.deletedAt));
  return found.map(({ id, title, deletedAt }) => ({
    id,
    title,
    deletedAt: new Date(deletedAt!).toISOString(),
  }));
}

export async function findBoard(db: Db, id: string): Promise<StoredBoard> {
  const [found] = await db
    .select(columns)
    .from(boards)
    .where(and(eq(boards.id, id), isNull(boards.deletedAt)));
  if (!found) throw notFound('board', id);
  return found;
}

/** Keeps a new board under an id made from its title. */
export async function createBoard(
  db: Db,
  document: Board,
  scratch: { scratchOf: string; scratchFrom: number } | null = null,
): Promise<StoredBoard> {
  return atOnce(db, async (tx) => {
    await tx.execute(sql`LOCK TABLE ${boards} IN SHARE ROW EXCLUSIVE MODE`);
    const taken = await tx.select({ id: boards.id }).from(boards);
    const id = idFrom(
      document.title,
      taken.map((board) => board.id),
      'board',
    );
    const [stored] = await tx
      .insert(boards)
      .values({ id, document, ...scratch })
      .returning(columns);
    await tx.insert(boardVersions).values({ board: id, revision: 1, document });
    await ownedByAsker(tx, 'board', id);
    return stored!;
  });
}

/**
 * Saves a change made to revision `base`; refused when the board has moved on since, with both sides intact. A save with
 * a key that was kept before is not done again.
 */
export async function saveBoard(
  db: Db,
  id: string,
  base: number,
  change: (document: Board) => unknown,
  key: string | null = null,
): Promise<Pick<StoredBoard, 'revision' | 'updatedAt'>> {
  return atOnce(db, async (tx) => {
    const [current] = await tx
      .select(columns)
      .from(boards)
      .where(and(eq(boards.id, id), isNull(boards.deletedAt)))
      .for('update');
    if (!current) throw notFound('board', id);
    if (key !== null) {
      // The same save once more: its answer was lost on the way.
      const [before] = await tx
        .select({ revision: boardVersions.revision, updatedAt: boardVersions.savedAt })
        .from(boardVersions)
        .where(and(eq(boardVersions.board, id), eq(boardVersions.saveKey, key)));
      if (before) return before;
    }
    if (current.revision !== base)
      throw new HttpProblem(
        412,
        'edit-conflict',
        tell('store.theBoardIsAt', { revision: current.revision, base }),
        {
          revision: current.revision,
        },
      );
    const document = await needBoard(change(current.document));
    const revision = base + 1;
    const [stored] = await tx
      .update(boards)
      .set({ document, revision, updatedAt: sql`now()` })
      .where(eq(boards.id, id))
      .returning(columns);
    await tx.insert(boardVersions).values({ board: id, revision, document, saveKey: key });
    return stored!;
  });
}

export const setDeleted = async (db: Db, id: string, deleted: boolean): Promise<void> => {
  const found = await db
    .update(boards)
    .set({ deletedAt: deleted ? sql`now()` : null })
    .where(eq(boards.id, id))
    .returning({ id: boards.id });
  if (!found.length) throw notFound('board', id);
};

export async function findVersion(db: Db, board: string, revision: number): Promise<StoredVersion> {
  const [found] = await db
    .select({
      id: boardVersions.board,
      revision: boardVersions.revision,
      updatedAt: boardVersions.savedAt,
      document: boardVersions.document,
    })
    .from(boardVersions)
    .where(and(eq(boardVersions.board, board), eq(boardVersions.revision, revision)));
  if (!found) throw notFound('version', `${board} ${revision}`);
  return found;
}
