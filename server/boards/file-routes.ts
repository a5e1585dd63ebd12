import { Readable } from 'node:stream';
import { datasetsOf } from '@sorvik/core/board/board';
import { fileNeeds } from '@sorvik/core/edit/board-file';
import { fullEngine } from '@sorvik/formula/full-engine';
import { Transform } from 'class-transformer';
import { IsBoolean, IsObject, IsOptional, ValidateBy } from 'class-validator';
import { datasetInfos } from '../datasets/store';
import type { Database } from '../db/client';
import { bodyOf } from '../http/body';
import type { Routes } from '../http/routes';
import { ref } from '../http/schemas';
import type { ImportJobs } from '../imports/jobs';
import { tell } from '../tell';
import { shown } from './answers';
import { boardFile, boardZip, fileName, type GivenDatasets, importFile, importZip, needFile } from './files';
import { findBoard } from './store';

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

/** Boards as files, alone or with their data. */
export function addBoardFileRoutes(routes: Routes, database: Database, jobs: ImportJobs): void {
  const { db } = database;
  routes
    .add(
      {
        method: 'get',
        path: '/api/boards/:id/file',
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
    );
}
