import type { FieldReach, RefreshMode } from '@sorvik/core/board/api-types';
import { Type } from 'class-transformer';
import { IsIn, IsInt, IsOptional, IsString, Max, MaxLength, Min } from 'class-validator';
import { findDataset } from '../datasets/store';
import { bodyOf } from '../http/body';
import type { Routes } from '../http/routes';
import { listOf, ref } from '../http/schemas';
import { FileQuery } from '../imports/routes';
import { goBack } from './apply';
import { changedRows } from './changed-rows';
import { previewRefresh } from './preview';
import type { Refresher } from './refresher';
import { listVersions } from './versions';
import { refreshModes } from './way';

class RefreshQuery extends FileQuery {
  @IsIn(refreshModes)
  mode!: RefreshMode;

  /** The key of the field by which rows are replaced, for `merge`. */
  @IsOptional()
  @IsString()
  @MaxLength(63)
  by?: string;
}

const mostVersions = 1_000_000_000;

class BackInput {
  @IsInt()
  @Min(1)
  @Max(mostVersions)
  version!: number;
}

class ChangeQuery {
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(mostVersions)
  from!: number;

  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(mostVersions)
  to!: number;
}

/** New rows for datasets that are there, and the versions of those. */
export function addRefreshRoutes(routes: Routes, refresher: Refresher): void {
  const { database, jobs, versionsKept } = refresher;
  const { db } = database;
  const path = '/api/datasets/:id';
  const staged = `/api/imports/:id`;

  routes
    .add(
      {
        method: 'post',
        path: `${path}/refreshes`,
        counts: 'upload',
        needs: { dataset: 'edit' },
        summary: 'Send a file with new rows; they wait until they are taken',
        query: RefreshQuery,
        rawBody: { type: 'text/csv' },
        answers: { 201: ref('Import') },
      },
      async (c, { query }) => {
        const id = c.req.param('id')!;
        const landing = await refresher.landing(id, { mode: query.mode, by: query.by });
        const view = query.part
          ? await jobs.receiveParts(query.part, landing, query.id)
          : await jobs.receive(query.name, bodyOf(c), landing, query.id);
        return c.json(view, 201);
      },
    )
    .add(
      {
        method: 'get',
        path: `${staged}/preview`,
        needs: 'its-import',
        summary: 'What the rows that wait would change',
        answers: { 200: ref('RefreshPreview') },
      },
      async (c) => {
        const { dataset, by, ...rows } = jobs.staged(c.req.param('id')!);
        const preview = await previewRefresh(database, dataset, { ...rows, by }, c.req.raw.signal);
        /** Of the boards that it reaches, those that whoever asks may see. */
        const seen = <T extends { reach: FieldReach[] }>(list: T[]) =>
          Promise.all(
            list.map(async (each) => {
              const ids = each.reach.map(({ board }) => ({ id: board }));
              const known = new Set((await routes.access.visible(c, 'board', ids)).map(({ id }) => id));
              return { ...each, reach: each.reach.filter(({ board }) => known.has(board)) };
            }),
          );
        const [missing, retyped, values] = await Promise.all([
          seen(preview.missing),
          seen(preview.retyped),
          seen(preview.values),
        ]);
        return c.json({ ...preview, missing, retyped, values }, 200, { 'cache-control': 'no-store' });
      },
    )
    .add(
      {
        method: 'post',
        path: `${staged}/take`,
        needs: 'its-import',
        summary: 'Make the rows that wait those of their dataset',
        noted: 'rows-changed',
        answers: { 200: ref('Import') },
      },
      async (c) => {
        return c.json(await refresher.take(c.req.param('id')!));
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/versions`,
        needs: { dataset: 'edit' },
        summary: 'The versions of the rows that are kept, newest first',
        answers: { 200: listOf('DataVersion') },
      },
      async (c) => {
        const { id } = await findDataset(db, c.req.param('id')!);
        return c.json(await listVersions(db, id));
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/versions/changes`,
        needs: { dataset: 'edit' },
        summary: 'The rows that only one of two versions has',
        query: ChangeQuery,
        answers: { 200: ref('DataChange') },
      },
      async (c, { query }) =>
        c.json(await changedRows(database, c.req.param('id')!, query.from, query.to, c.req.raw.signal), 200, {
          'cache-control': 'no-store',
        }),
    )
    .add(
      {
        method: 'post',
        path: `${path}/versions/back`,
        needs: { dataset: 'edit' },
        summary: 'Go back to a version of the rows; what came after it is kept as a version too',
        noted: 'rows-gone-back',
        body: BackInput,
        answers: { 200: listOf('DataVersion') },
      },
      async (c, { body }) => {
        const id = c.req.param('id')!;
        await goBack(database, id, body.version, versionsKept);
        return c.json(await listVersions(db, id));
      },
    );
}
