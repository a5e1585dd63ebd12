import { afterAll, beforeAll, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';
import { purgeDeleted } from './purge';

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
