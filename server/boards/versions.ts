import type { BoardVersion } from '@sorvik/core/board/api-types';
import type { DatasetInfo } from '@sorvik/core/data/dataset';
import { boardLines, linesOnlyIn } from '@sorvik/core/text/board-lines';
import { fullEngine } from '@sorvik/formula/full-engine';
import { and, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { asking } from '../access/asking';
import { atOnce, type Db } from '../db/client';
import { boards, boardVersions } from '../db/schema';
import { HttpProblem, notFound } from '../http/problem';
import { tell } from '../tell';
import { createBoard, findBoard, findVersion, type StoredBoard, type StoredVersion } from './store';

/** Changes that follow each other within this time are one version, ms. */
const oneSitting = 5 * 60_000;
const mostVersions = 60;
/** Lines that are shown of what changed in a version. */
const mostLines = 8;

/**
 * What a board has been, newest first: the last state of each sitting, and every state that has a name or was
 * published; each with what it says that the one before did not.
 */
export async function listVersions(
  db: Db,
  board: StoredBoard,
  /** The datasets whose fields can be named. */
  known: readonly DatasetInfo[],
): Promise<BoardVersion[]> {
  const all = await db
    .select({
      revision: boardVersions.revision,
      savedAt: boardVersions.savedAt,
      name: boardVersions.name,
    })
    .from(boardVersions)
    .where(eq(boardVersions.board, board.id))
    .orderBy(desc(boardVersions.revision))
    .limit(5000);
  const ends = all.filter(({ revision, name, savedAt }, i) => {
    const next = all[i - 1];
    return (
      !next ||
      name !== null ||
      revision === board.published ||
      revision === 1 ||
      Date.parse(next.savedAt) - Date.parse(savedAt) > oneSitting
    );
  });
  const shown = ends.slice(0, mostVersions);
  const documents = await db
    .select({ revision: boardVersions.revision, document: boardVersions.document })
    .from(boardVersions)
    .where(
      and(
        eq(boardVersions.board, board.id),
        inArray(
          boardVersions.revision,
          shown.map(({ revision }) => revision),
        ),
      ),
    );
  const documentOf = new Map(documents.map(({ revision, document }) => [revision, document]));
  const lines = shown.map(({ revision }) => boardLines(documentOf.get(revision)!, known, fullEngine));
  return shown.map(({ revision, savedAt, name }, i) => {
    const before = lines[i + 1] ?? [];
    return {
      revision,
      savedAt,
      name,
      title: documentOf.get(revision)!.title,
      published: revision === board.published,
      added: i === shown.length - 1 ? [] : linesOnlyIn(lines[i]!, before).slice(0, mostLines),
      removed: linesOnlyIn(before, lines[i]!).slice(0, mostLines),
    };
  });
}

/** Gives a version a name, or takes it away. */
export async function nameVersion(
  db: Db,
  board: string,
  revision: number,
  name: string | null,
): Promise<void> {
  const named = await db
    .update(boardVersions)
    .set({ name })
    .where(and(eq(boardVersions.board, board), eq(boardVersions.revision, revision)))
    .returning({ revision: boardVersions.revision });
  if (!named.length) throw notFound('version', `${board} ${revision}`);
}

/** What viewers see: the published revision, or the draft while there is none. */
export async function shownBoard(db: Db, id: string): Promise<StoredVersion> {
  const board = await findBoard(db, id);
  if (board.published !== null) return findVersion(db, id, board.published);
  const { revision, updatedAt, document } = board;
  return { id, revision, updatedAt, document };
}

/** From now on viewers see this revision. */
export async function publish(db: Db, id: string, revision: number): Promise<StoredBoard> {
  const board = await findBoard(db, id);
  if (board.scratchOf !== null)
    throw new HttpProblem(409, 'a-scratch-copy', tell('versions.aWorkingCopyCannot'));
  await findVersion(db, id, revision);
  await db
    .update(boards)
    .set({
      published: revision,
      publishedAt: sql`now()`,
      publishedBy: asking.getStore()?.person?.id ?? null,
    })
    .where(eq(boards.id, id));
  return findBoard(db, id);
}

/** A copy to try something on; nothing of it reaches the board before it is folded back. */
export async function scratchOf(db: Db, id: string): Promise<StoredBoard> {
  const { document, revision, scratchOf: from } = await findBoard(db, id);
  if (from !== null) throw new HttpProblem(409, 'a-scratch-copy', tell('versions.thisIsACopy'));
  return createBoard(db, document, { scratchOf: id, scratchFrom: revision });
}

/** Puts what was tried on a copy onto the board it was copied from; refused where that has moved on, unless `anyway`. */
export async function foldBack(db: Db, id: string, anyway: boolean): Promise<StoredBoard> {
  const folded = await atOnce(db, async (tx) => {
    // Held from here on: nothing that is saved to the copy meanwhile gets lost.
    const [copy] = await tx
      .select()
      .from(boards)
      .where(and(eq(boards.id, id), isNull(boards.deletedAt)))
      .for('update');
    if (!copy) throw notFound('board', id);
    const { scratchOf: home, scratchFrom, document } = copy;
    if (home === null) throw new HttpProblem(409, 'no-scratch-copy', tell('versions.thisBoardIsNo'));
    const [current] = await tx
      .select()
      .from(boards)
      .where(and(eq(boards.id, home), isNull(boards.deletedAt)))
      .for('update');
    if (!current) throw notFound('board', home);
    if (current.revision !== scratchFrom && !anyway)
      throw new HttpProblem(
        412,
        'edit-conflict',
        tell('versions.hasBeenChangedSince', { title: current.document.title }),
        { revision: current.revision },
      );
    const revision = current.revision + 1;
    await tx.update(boards).set({ document, revision, updatedAt: sql`now()` }).where(eq(boards.id, home));
    await tx.insert(boardVersions).values({ board: home, revision, document });
    await tx.update(boards).set({ deletedAt: sql`now()` }).where(eq(boards.id, id));
    return home;
  });
  return findBoard(db, folded);
}

/** Takes a folding back: the board is what it was before revision `revision`, and the copy is there again. */
export async function unfold(db: Db, id: string, scratch: string, revision: number): Promise<StoredBoard> {
  await atOnce(db, async (tx) => {
    // The copy first, as folding does: two that wait for each other would wait for ever.
    const restored = await tx
      .update(boards)
      // Where it was folded without being asked, it can be again: the board is what the copy was made from.
      .set({
        deletedAt: null,
        scratchFrom: sql`CASE WHEN ${boards.scratchFrom} = ${revision - 1} THEN ${revision + 1} ELSE ${boards.scratchFrom} END`,
      })
      .where(and(eq(boards.id, scratch), eq(boards.scratchOf, id)))
      .returning({ id: boards.id });
    const [current] = await tx
      .select()
      .from(boards)
      .where(and(eq(boards.id, id), isNull(boards.deletedAt)))
      .for('update');
    if (!current) throw notFound('board', id);
    if (current.revision !== revision)
      throw new HttpProblem(
        412,
        'edit-conflict',
        tell('versions.wasChangedSinceIts', { title: current.document.title }),
        { revision: current.revision },
      );
    const [before] = await tx
      .select({ document: boardVersions.document })
      .from(boardVersions)
      .where(and(eq(boardVersions.board, id), eq(boardVersions.revision, revision - 1)));
    if (!before || !restored.length) throw notFound('copy', scratch);
    const { document } = before;
    await tx
      .update(boards)
      .set({ document, revision: revision + 1, updatedAt: sql`now()` })
      .where(eq(boards.id, id));
    await tx.insert(boardVersions).values({ board: id, revision: revision + 1, document });
  });
  return findBoard(db, id);
}
