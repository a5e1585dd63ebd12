import { IsObject } from 'class-validator';
import type { Context } from 'hono';
import type { Database } from '../db/client';
import { HttpProblem } from '../http/problem';
import { type Routes, readJson } from '../http/routes';
import { listOf, ref } from '../http/schemas';
import { cutText } from '../http/well-formed';
import { tell } from '../tell';
import { etag, forViewers, mostRevisions, shown } from './answers';
import { publishedBoardSchema } from './board-schema';
import { patched } from './patch';
import {
  boardIds,
  createBoard,
  deletedBoards,
  findBoard,
  listBoards,
  needBoard,
  saveBoard,
  setDeleted,
} from './store';
import { shownBoard } from './versions';

class DocumentInput {
  @IsObject()
  document!: Record<string, unknown>;
}

/** The revision an `If-Match` header names; a change without one could overwrite somebody else's. */
function baseRevision(c: Context): number {
  const header = c.req.header('if-match');
  if (!header) throw new HttpProblem(428, 'if-match-missing', tell('boards.sendIfMatchWith'));
  const match = /^(?:W\/)?"(\d+)"$/.exec(header.trim());
  if (!match)
    throw new HttpProblem(
      400,
      'if-match-unreadable',
      tell('boards.ifMatchMustBe', { given: header.slice(0, 40) }),
    );
  // A board never gets that far: a larger one is not this board's.
  return Math.min(mostRevisions, Number(match[1]));
}

/** What names a save, so that one whose answer was lost can be sent again; null where the header is not there. */
function saveKey(c: Context): string | null {
  const key = c.req.header('idempotency-key');
  if (key === undefined) return null;
  if (!/^[\w-]{8,64}$/.test(key))
    throw new HttpProblem(400, 'idempotency-key-unreadable', tell('boards.idempotencyKeyMustHave'));
  return key;
}

/** Boards: JSON documents that are saved by patches. */
export function addBoardRoutes(routes: Routes, database: Database): void {
  const { db } = database;
  const path = '/api/boards/:id';
  routes
    .add(
      {
        method: 'get',
        path: '/api/boards',
        needs: 'person',
        summary: 'All boards, last changed first',
        answers: { 200: listOf('SavedBoard') },
      },
      async (c) => {
        const ids = await routes.access.visible(c, 'board', await boardIds(db));
        const seen = await listBoards(
          db,
          ids.map(({ id }) => id),
        );
        const owned = new Set(routes.access.team ? await routes.access.visible(c, 'board', seen, 'own') : []);
        const edited = new Set(await routes.access.visible(c, 'board', seen, 'edit'));
        // Of what somebody may only see they get what viewers do.
        return c.json(
          await Promise.all(
            seen.map(async (board) =>
              edited.has(board)
                ? { ...board, ...(owned.has(board) ? { owned: true } : {}) }
                : { ...board, ...forViewers(await shownBoard(db, board.id)), viewed: true },
            ),
          ),
        );
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/boards',
        needs: 'person',
        summary: 'Keep a new board',
        body: DocumentInput,
        answers: { 201: ref('SavedBoard') },
      },
      async (c, { body }) => shown(c, await createBoard(db, await needBoard(body.document)), 201),
    )
    .add(
      {
        method: 'get',
        path,
        needs: { board: 'edit' },
        summary: 'One board; its ETag is its revision',
        answers: { 200: ref('SavedBoard') },
      },
      async (c) => shown(c, await findBoard(db, c.req.param('id')!)),
    )
    .add(
      {
        method: 'patch',
        path,
        needs: { board: 'edit' },
        summary: 'Change a board by a JSON Patch (RFC 6902); needs If-Match',
        rawBody: {
          type: 'application/json-patch+json',
          schema: { type: 'array', items: { type: 'object' } },
        },
        answers: { 200: ref('Revision') },
      },
      async (c) => {
        const base = baseRevision(c);
        const patch = await readJson(c);
        const { revision, updatedAt } = await saveBoard(
          db,
          c.req.param('id')!,
          base,
          (document) => patched(document, patch),
          saveKey(c),
        );
        return c.json({ revision, updatedAt }, 200, { etag: etag(revision) });
      },
    )
    .add(
      {
        method: 'delete',
        path,
        needs: { board: 'own' },
        summary: 'Delete a board; it can be restored',
        noted: 'board-deleted',
        answers: { 204: null },
      },
      async (c) => {
        await setDeleted(db, (await findBoard(db, c.req.param('id')!)).id, true);
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/restore`,
        needs: { board: 'own' },
        summary: 'Take back the deletion of a board',
        noted: 'board-restored',
        answers: { 200: ref('SavedBoard') },
      },
      async (c) => {
        await setDeleted(db, c.req.param('id')!, false);
        return shown(c, await findBoard(db, c.req.param('id')!));
      },
    )
    .add(
      {
        method: 'get',
        path: '/api/deleted-boards',
        needs: 'person',
        summary: 'Boards that were deleted and can come back',
        answers: { 200: listOf('DeletedBoard') },
      },
      async (c) => c.json(await routes.access.visible(c, 'board', await deletedBoards(db), 'own')),
    )
    .add(
      {
        method: 'post',
        path: `${path}/duplicate`,
        needs: { board: 'edit' },
        summary: 'Keep a copy of a board',
        answers: { 201: ref('SavedBoard') },
      },
      async (c) => {
        const { document } = await findBoard(db, c.req.param('id')!);
        return shown(
          c,
          await createBoard(db, { ...document, title: `${cutText(document.title, 190)} (copy)` }),
          201,
        );
      },
    )
    .add(
      {
        method: 'get',
        path: '/api/board.schema.json',
        needs: 'person',
        summary: 'The JSON Schema of the board document',
        answers: { 200: { type: 'object' } },
      },
      (c) => c.json(publishedBoardSchema()),
    );
}
