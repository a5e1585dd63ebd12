import { mkdir, readdir, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';
import { purgeDeleted, sweep } from './purge';

let t: TestApp;
beforeAll(async () => {
  t = await testApp();
});
afterAll(() => t.close());

it('what was deleted long ago goes for good, with its rows; what was deleted lately can still be restored', async () => {
  const old = (await t.importCsv('a,b\n1,x\n', 'Old.csv')).dataset!;
  const late = (await t.importCsv('a,b\n1,x\n', 'Late.csv')).dataset!;
  const kept = (await t.importCsv('a,b\n1,x\n', 'Kept.csv')).dataset!;
  for (const id of [old, late]) await t.send('DELETE', `/api/datasets/${id}`);
  await t.database.pool.query(
    "UPDATE sorvik.datasets SET deleted_at = now() - interval '31 days' WHERE id = $1",
    [old],
  );
  await purgeDeleted(t.database);
  expect((await t.send('POST', `/api/datasets/${old}/restore`)).status).toBe(404);
  expect((await t.send('POST', `/api/datasets/${late}/restore`)).status).toBe(200);
  expect((await t.json(`/api/datasets/${kept}`)).status).toBe(200);
  const { rows } = await t.database.pool.query(
    "SELECT count(*) AS n FROM pg_tables WHERE schemaname = 'data'",
  );
  expect(rows[0].n).toBe(2);
});

it('a dataset says which boards read it, in charts and in levers', async () => {
  const id = (await t.importCsv('quay,n\nQuel,1\nHarl,2\n', 'Read.csv')).dataset!;
  const lever = {
    kind: 'pick',
    id: 'quays',
    name: 'Quays',
    dataset: id,
    field: 'quay',
    start: [],
    clearing: 'empty',
  };
  const board = { version: 1, title: 'Reader', levers: [lever], charts: [] };
  const made = await t.send('POST', '/api/boards', { document: board });
  expect(made.status).toBe(201);
  expect((await t.json(`/api/datasets/${id}`)).body.boards).toEqual([{ id: 'reader', title: 'Reader' }]);
  await t.send('DELETE', '/api/boards/reader');
  expect((await t.json(`/api/datasets/${id}`)).body.boards).toEqual([]);
});

it('what was deleted is listed with its size, and can be removed for good before its time', async () => {
  const rows = Array.from({ length: 2000 }, (_, i) => `${i},text ${i}`).join('\n');
  const id = (await t.importCsv(`a,b\n${rows}\n`, 'Full.csv')).dataset!;
  const early = await t.send('DELETE', `/api/deleted-datasets/${id}`);
  expect(early).toMatchObject({ status: 409, body: { detail: expect.stringContaining('delete it first') } });
  await t.send('DELETE', `/api/datasets/${id}`);
  const [found] = (await t.json('/api/deleted-datasets')).body;
  expect(found).toMatchObject({ id, name: 'Full', rows: 2000 });
  expect(found.bytes).toBeGreaterThan(80_000);
  expect((await t.send('DELETE', `/api/deleted-datasets/${id}`)).status).toBe(204);
  expect((await t.json('/api/deleted-datasets')).body.map((each: { id: string }) => each.id)).not.toContain(
    id,
  );
  expect((await t.send('POST', `/api/datasets/${id}/restore`)).status).toBe(404);
  expect((await t.send('DELETE', `/api/deleted-datasets/${id}`)).status).toBe(404);
});

it('a sweep takes what a kill left behind, and nothing that is in use', async () => {
  const kept = (await t.importCsv('a\n1\n', 'In use.csv')).dataset!;
  await t.database.pool.query('CREATE TABLE data.d_987654 (a int); CREATE TABLE data.d_987654_next (a int)');
  const old = join(t.spool, 'old');
  const running = join(t.spool, 'running');
  await mkdir(join(t.spool, 'board-left'));
  for (const path of [old, running, join(t.spool, 'new')]) await writeFile(path, 'x');
  const longAgo = new Date(Date.now() - 2 * 3_600_000);
  for (const path of [old, running, join(t.spool, 'board-left')]) await utimes(path, longAgo, longAgo);
  await sweep(t.database, t.spool, new Set(['running']));
  expect((await readdir(t.spool)).sort()).toEqual(['new', 'running']);
  const { rows } = await t.database.pool.query(
    "SELECT to_regclass('data.d_987654') AS a, to_regclass('data.d_987654_next') AS b",
  );
  expect(rows[0]).toEqual({ a: null, b: null });
  expect((await t.json(`/api/datasets/${kept}/rows`)).body.rows).toEqual([[1]]);
});

it('a table is fast to read once it is there, also where a server was killed before it was', async () => {
  const id = (await t.importCsv('a\n1\n2\n', 'Fast.csv')).dataset!;
  const { pool } = t.database;
  const number = (await pool.query('SELECT number FROM sorvik.datasets WHERE id = $1', [id])).rows[0].number;
  const indexes = async () =>
    (await pool.query('SELECT indexname AS name FROM pg_indexes WHERE tablename = $1', [`d_${number}`])).rows;
  await expect.poll(indexes).toHaveLength(1);
  for (const { name } of await indexes()) await pool.query(`DROP INDEX data."${name}"`);
  await sweep(t.database, t.spool, new Set());
  expect(await indexes()).toHaveLength(1);
  await sweep(t.database, t.spool, new Set());
  expect(await indexes()).toHaveLength(1);
});
