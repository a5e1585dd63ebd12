import { Readable } from 'node:stream';
import { datasetsOf } from '@sorvik/core/board/board';
import { fileNeeds } from '@sorvik/core/edit/board-file';
import { boardForViewers } from '@sorvik/core/edit/for-viewers';
import { fullEngine } from '@sorvik/formula/full-engine';
import { Transform } from 'class-transformer';
import {
  IsBoolean,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Max,
  MaxLength,
  Min,
  ValidateBy,
} from 'class-validator';
import type { Context } from 'hono';
import { datasetInfos } from '../datasets/store';
import type { Database } from '../db/client';
import { bodyOf } from '../http/body';
import { HttpProblem } from '../http/problem';
import { type Routes, readJson } from '../http/routes';
import { listOf, ref } from '../http/schemas';
import { cutText } from '../http/well-formed';
import type { ImportJobs } from '../imports/jobs';
import { tell } from '../tell';
import { publishedBoardSchema } from './board-schema';
import { boardFile, boardZip, fileName, type GivenDatasets, importFile, importZip, needFile } from './files';
import { patched } from './patch';
import {
  boardIds,
  createBoard,
  deletedBoards,
  findBoard,
  findVersion,
  listBoards,
  needBoard,
  type StoredBoard,
  type StoredVersion,
  saveBoard,
  setDeleted,
} from './store';
import { foldBack, listVersions, nameVersion, publish, scratchOf, shownBoard, unfold } from './versions';
import { asVisited } from './visited';

const mostRevisions = 2_147_483_647;

class DocumentInput {
  @IsObject()
  document!: Record<string, unknown>;
}

class VersionInput {
  @IsString()
  @MaxLength(200)
  name!: string;
}

class PublishInput {
  @IsInt()
  @Min(1)
  @Max(mostRevisions)
  revision!: number;
}

class FoldInput {
  /** Also where the board has been changed since the copy was made. */
  @IsOptional()
  @IsBoolean()
  anyway?: boolean;
}

class UnfoldInput extends PublishInput {
  /** The copy that was folded back. */
  @IsString()
  @MaxLength(80)
  scratch!: string;
}

class FileQuery {
  /** `true`: a zip file with the rows of its datasets. */
  @IsOptional()
  @Transform(({ value }) => value === 'true')
  @IsBoolean()
  data?: boolean;
}

class FileInput {
  @IsObject()
  file!: Record<string, unknown>;
}

const isTexts = (value: unknown) =>
  typeof value === 'object' &&
  value !== null &&
  Object.values(value).every((each) => typeof each === 'string');

const isGiven = (value: unknown): value is GivenDatasets[string] => {
  const { dataset, fields } = (value ?? {}) as Record<string, unknown>;
  return typeof dataset === 'string' && isTexts(fields);
};

class FileImport extends FileInput {
  @ValidateBy({
    name: 'areGivenDatasets',
    validator: {
      validate: (value) => typeof value === 'object' && value !== null && Object.values(value).every(isGiven),
      defaultMessage: () => tell('boards.datasetsMustSayFor'),
    },
  })
  datasets!: GivenDatasets;
}

/** The revision in an address; -1, which there is none of, where it is no number. */
const revisionIn = (c: Context): number => {
  const revision = Number(c.req.param('revision'));
  return Number.isInteger(revision) && revision <= mostRevisions ? revision : -1;
};

const etag = (revision: number) => `"${revision}"`;

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

const forViewers = (board: StoredVersion): StoredVersion => ({
  ...board,
  document: boardForViewers(board.document),
});

const shown = (c: Context, board: StoredBoard, status: 200 | 201 = 200) =>
  c.json(board, status, { etag: etag(board.revision) });

/** Boards: JSON documents that are saved by patches. */
export function addBoardRoutes(routes: Routes, database: Database, jobs: ImportJobs): void {
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
        path: `${path}/versions`,
        needs: { board: 'edit' },
        summary: 'What a board has been, newest first, and in words what changed',
        answers: { 200: listOf('BoardVersion') },
      },
      async (c) => {
        const known = await routes.access.visible(c, 'dataset', await datasetInfos(db));
        return c.json(await listVersions(db, await findBoard(db, c.req.param('id')!), known));
      },
    )
    .add(
      {
        method: 'patch',
        path: `${path}/versions/:revision`,
        needs: { board: 'edit' },
        summary: 'Give a version a name',
        body: VersionInput,
        answers: { 204: null },
      },
      async (c, { body }) => {
        const { id } = await findBoard(db, c.req.param('id')!);
        await nameVersion(db, id, revisionIn(c), body.name.trim() || null);
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/shown`,
        needs: { board: 'shown' },
        summary: 'What viewers see of a board',
        answers: { 200: ref('ShownBoard') },
      },
      async (c) => {
        const found = await shownBoard(db, c.req.param('id')!);
        const shown = forViewers(found);
        const visit = routes.access.visit(c);
        return c.json(visit ? asVisited(shown, visit) : shown);
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/publish`,
        needs: { board: 'edit' },
        summary: 'Show viewers a revision from now on',
        noted: 'board-published',
        body: PublishInput,
        answers: { 200: ref('SavedBoard') },
      },
      async (c, { body }) => shown(c, await publish(db, c.req.param('id')!, body.revision)),
    )
    .add(
      {
        method: 'post',
        path: `${path}/scratch`,
        needs: { board: 'edit' },
        summary: 'Make a copy to try something on',
        answers: { 201: ref('SavedBoard') },
      },
      async (c) => shown(c, await scratchOf(db, c.req.param('id')!), 201),
    )
    .add(
      {
        method: 'post',
        path: `${path}/fold`,
        needs: { board: 'edit' },
        summary: 'Put what was tried on a copy onto the board it was made of',
        body: FoldInput,
        answers: { 200: ref('SavedBoard') },
      },
      async (c, { body }) => {
        const { id, scratchOf: home } = await findBoard(db, c.req.param('id')!);
        if (home !== null) await routes.access.also(c, 'board', home, 'edit');
        return shown(c, await foldBack(db, id, body.anyway ?? false));
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/unfold`,
        needs: { board: 'edit' },
        summary: 'Take back that a copy was folded back: `revision` is the one that this made',
        body: UnfoldInput,
        answers: { 200: ref('SavedBoard') },
      },
      async (c, { body }) => {
        await routes.access.also(c, 'board', body.scratch, 'edit');
        return shown(c, await unfold(db, c.req.param('id')!, body.scratch, body.revision));
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/versions/:revision`,
        needs: { board: 'edit' },
        summary: 'A board as it was',
        answers: { 200: ref('ShownBoard') },
      },
      async (c) => c.json(await findVersion(db, c.req.param('id')!, revisionIn(c))),
    )
    .add(
      {
        method: 'get',
        path: `${path}/file`,
        needs: { board: 'edit' },
        summary: 'A board as a file: JSON, or with its data a zip file',
        query: FileQuery,
        answers: { 200: 'application/octet-stream' },
      },
      async (c, { query }) => {
        const board = await findBoard(db, c.req.param('id')!);
        const headers = (type: string, ending: string) => ({
          'content-type': type,
          'content-disposition': `attachment; filename="${fileName(board, ending)}"`,
        });
        // It names the fields of its datasets; with data it has their rows.
        for (const id of datasetsOf(board.document))
          await routes.access.also(c, 'dataset', id, query.data ? 'edit' : 'view');
        if (!query.data)
          return c.body(
            `${JSON.stringify(await boardFile(database, board), null, 2)}\n`,
            200,
            headers('application/json', 'json'),
          );
        const zip = await boardZip(database, board);
        return c.body(Readable.toWeb(zip) as ReadableStream, 200, headers('application/zip', 'zip'));
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/board-files/needs',
        needs: 'person',
        summary: 'What a board file needs, held against the datasets that are here',
        stores: false,
        body: FileInput,
        answers: { 200: ref('FileNeeds') },
      },
      async (c, { body }) => {
        const file = needFile(body.file);
        return c.json({
          title: file.document.title,
          needs: fileNeeds(
            file,
            await routes.access.visible(c, 'dataset', await datasetInfos(db)),
            fullEngine,
          ),
        });
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/board-files',
        needs: 'person',
        summary: 'Keep the board of a file; `datasets` says what stands here for those that it reads',
        body: FileImport,
        answers: { 201: ref('SavedBoard') },
      },
      async (c, { body }) => {
        for (const { dataset } of Object.values(body.datasets))
          await routes.access.also(c, 'dataset', dataset, 'view');
        return shown(c, await importFile(database, needFile(body.file), body.datasets), 201);
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/board-files/zip',
        counts: 'upload',
        needs: 'person',
        summary: 'Keep a board with its data',
        rawBody: { type: 'application/zip' },
        answers: { 201: ref('SavedBoard') },
      },
      async (c) => shown(c, await importZip(database, jobs, bodyOf(c)), 201),
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
