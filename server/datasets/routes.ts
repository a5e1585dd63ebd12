import { Readable } from 'node:stream';
import type { DatasetView } from '@sorvik/core/board/api-types';
import { asc, count, desc, eq, isNull, sql } from 'drizzle-orm';
import type { Context } from 'hono';
import Papa from 'papaparse';
import { Remembered } from '../db/remembered';
import { datasets, importRejects } from '../db/schema';
import { notFound } from '../http/problem';
import type { Routes } from '../http/routes';
import { listOf, ref } from '../http/schemas';
import { isOnItsWay } from '../sources/copies/copies';
import type { Sources } from '../sources/sources';
import { addFieldRoutes, type ViewOf } from './field-routes';
import { NameInput, PageQuery } from './inputs';
import { needNobodyLooksUp } from './looked-up';
import { ensureProfiles } from './profile';
import { rowsAsCsv } from './rows-csv';
import { rowsAsArrow, rowsAsParquet } from './rows-files';
import { addRuleRoutes } from './rule-routes';
import { SeenViews } from './seen-view';
import { fieldsOf, findDataset, type StoredDataset, viewDataset } from './store';

const path = '/api/datasets/:id';

const download = (c: Context, rows: Readable, name: string, type: string) =>
  c.body(Readable.toWeb(rows) as ReadableStream, 200, {
    'content-type': type,
    'content-disposition': `attachment; filename="${name}"`,
    'cache-control': 'no-store',
  });

/** Datasets, their fields and their rows. Files that are made to be fetched are made in `spool`. */
export function addDatasetRoutes(routes: Routes, sources: Sources, spool: string): void {
  const { database } = sources;
  const { db } = database;
  const shown = async (stored: StoredDataset, recent = false): Promise<DatasetView> => ({
    ...(await viewDataset(db, stored, { recent })),
    ...(sources.copies && stored.connection === null ? { copy: sources.copies.view(stored) } : {}),
  });
  const view: ViewOf = async (id) => {
    await ensureProfiles(sources, await findDataset(db, id));
    return shown(await findDataset(db, id), true);
  };
  const views = new Remembered<DatasetView>(
    database.changes,
    ['datasets', 'fields', 'boards', 'connections', 'refresh_schedules'],
    // What is on its way changes without a word of the database.
    { max: 500, keeps: ({ behind, copy }) => !behind && !isOnItsWay(copy) },
  );

  /** Of the boards that read it, whoever asks is told of those that they may see. */
  const withSeenBoards = async (c: Context, found: DatasetView): Promise<DatasetView> => ({
    ...found,
    boards: await routes.access.visible(c, 'board', found.boards),
  });

  addFieldRoutes(routes, sources, view);
  addRuleRoutes(routes, sources);
  const seen = new SeenViews(sources);
  routes
    .add(
      {
        method: 'get',
        path: '/api/datasets',
        needs: 'person',
        summary: 'All datasets, newest first',
        answers: { 200: listOf('Dataset') },
      },
      async (c) => {
        const all = await db
          .select()
          .from(datasets)
          .where(isNull(datasets.deletedAt))
          .orderBy(desc(datasets.createdAt));
        const visible = await routes.access.visible(c, 'dataset', all);
        const found = await Promise.all(
          visible.map(async (each) => seen.of(await withSeenBoards(c, await shown(each)))),
        );
        if (found.some(({ copy }) => isOnItsWay(copy))) c.header('cache-control', 'no-store');
        return c.json(found);
      },
    )
    .add(
      {
        method: 'get',
        path,
        needs: { dataset: 'shown' },
        summary: 'One dataset with the profile of each field',
        answers: { 200: ref('Dataset') },
      },
      async (c) => {
        const id = c.req.param('id')!;
        const all = await seen.of(await withSeenBoards(c, (await views.of(id, () => view(id)))!));
        const found = routes.access.limits(c)?.cut(all) ?? all;
        // How far a copy is changes all the time.
        if (isOnItsWay(found.copy)) c.header('cache-control', 'no-store');
        return c.json(found);
      },
    )
    .add(
      {
        method: 'patch',
        path,
        needs: { dataset: 'edit' },
        summary: 'Rename a dataset',
        body: NameInput,
        answers: { 200: ref('Dataset') },
      },
      async (c, { body }) => {
        const { id } = await findDataset(db, c.req.param('id')!);
        await db.update(datasets).set({ name: body.name.trim() }).where(eq(datasets.id, id));
        return c.json(await view(id));
      },
    )
    .add(
      {
        method: 'delete',
        path,
        needs: { dataset: 'own' },
        summary: 'Delete a dataset; it can be restored',
        noted: 'dataset-deleted',
        answers: { 204: null },
      },
      async (c) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        const { id } = dataset;
        await needNobodyLooksUp(db, dataset);
        await db.update(datasets).set({ deletedAt: sql`now()` }).where(eq(datasets.id, id));
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/restore`,
        needs: { dataset: 'own' },
        summary: 'Take back the deletion of a dataset',
        noted: 'dataset-restored',
        answers: { 200: ref('Dataset') },
      },
      async (c) => {
        const id = c.req.param('id')!;
        await db.update(datasets).set({ deletedAt: null }).where(eq(datasets.id, id));
        return c.json(await view(id));
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/rows`,
        counts: 'question',
        needs: { dataset: 'edit' },
        summary: 'Rows in the order of the file',
        query: PageQuery,
        answers: { 200: ref('Rows') },
      },
      async (c, { query }) => {
        const rows = await sources.ask(c.req.param('id')!, ({ source }) =>
          source.rows(query.offset, query.limit, c.req.raw.signal),
        );
        return c.json({ offset: query.offset, rows });
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/rows.csv`,
        counts: 'question',
        needs: { dataset: 'edit' },
        summary: 'All rows with all fields, as CSV',
        answers: { 200: 'text/csv' },
      },
      async (c) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        const rows = await rowsAsCsv(database, dataset, await fieldsOf(db, dataset.id));
        return download(c, rows, `${dataset.id}.csv`, 'text/csv; charset=utf-8');
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/rows.parquet`,
        counts: 'question',
        needs: { dataset: 'edit' },
        summary: 'All rows with all fields, as Parquet',
        answers: { 200: 'application/vnd.apache.parquet' },
      },
      async (c) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        const rows = await rowsAsParquet(database, dataset, await fieldsOf(db, dataset.id), spool);
        return download(c, rows, `${dataset.id}.parquet`, 'application/vnd.apache.parquet');
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/rows.arrow`,
        counts: 'question',
        needs: { dataset: 'edit' },
        summary: 'All rows with all fields, as a stream of Arrow IPC',
        answers: { 200: 'application/vnd.apache.arrow.stream' },
      },
      async (c) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        const rows = await rowsAsArrow(database, dataset, await fieldsOf(db, dataset.id));
        return download(c, rows, `${dataset.id}.arrow`, 'application/vnd.apache.arrow.stream');
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/rejects`,
        needs: { dataset: 'edit' },
        summary: 'Rows of the file that were skipped, with the reason',
        query: PageQuery,
        answers: { 200: ref('Rejects') },
      },
      async (c, { query }) => {
        const { id } = await findDataset(db, c.req.param('id')!);
        const mine = eq(importRejects.dataset, id);
        const [total] = await db.select({ n: count() }).from(importRejects).where(mine);
        const rejects = await db
          .select({
            line: importRejects.line,
            column: importRejects.column,
            reason: importRejects.reason,
            cells: importRejects.cells,
          })
          .from(importRejects)
          .where(mine)
          .orderBy(asc(importRejects.line))
          .limit(query.limit)
          .offset(query.offset);
        return c.json({ total: total?.n ?? 0, rejects });
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/rejects.csv`,
        needs: { dataset: 'edit' },
        summary: 'All rows that were skipped, as CSV',
        answers: { 200: 'text/csv' },
      },
      async (c) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        const names = (await fieldsOf(db, dataset.id)).map((field) => field.name);
        const all = await db
          .select()
          .from(importRejects)
          .where(eq(importRejects.dataset, dataset.id))
          .orderBy(asc(importRejects.line));
        if (!all.length) throw notFound('skipped', dataset.id);
        const rows = all.map(({ line, column, reason, cells }) => [line, column, reason, ...cells]);
        // A cell that a spreadsheet would run as a formula is made plain text.
        const csv = Papa.unparse([['line', 'column', 'reason', ...names], ...rows], {
          newline: '\n',
          escapeFormulae: true,
        });
        return c.body(`${csv}\n`, 200, {
          'content-type': 'text/csv; charset=utf-8',
          'content-disposition': `attachment; filename="${dataset.id}-set-aside.csv"`,
        });
      },
    );
}
