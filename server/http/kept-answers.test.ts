import { plainChart, plainPick } from '@sorvik/core/testing/documents';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
let id: string;

beforeAll(async () => {
  t = await testApp();
  id = (await t.importCsv('quay,n\nQuel,1\nHarl,2\n', 'Few.csv')).dataset!;
  await t.json(`/api/datasets/${id}`);
});
afterAll(() => t.close());

const get = (path: string, headers: Record<string, string> = {}) => t.request(path, { headers });
/** What the database was asked since; what is kept asks it nothing. */
async function asked(work: () => Promise<unknown>): Promise<number> {
  let count = 0;
  const { query } = t.database.pool;
  t.database.pool.query = ((...args: never[]) => {
    count++;
    return (query as (...all: never[]) => unknown).apply(t.database.pool, args);
  }) as never;
  await work();
  t.database.pool.query = query;
  return count;
}
/** Until the database has told of a change that was made behind the server's back. */
const soon = (check: () => Promise<void>) =>
  expect
    .poll(async () =>
      check().then(
        () => true,
        () => false,
      ),
    )
    .toBe(true);

describe('answers that are kept', () => {
  it('are the same again, without asking the database', async () => {
    const first = await (await get(`/api/datasets/${id}`)).json();
    let again: unknown;
    expect(
      await asked(async () => {
        again = await (await get(`/api/datasets/${id}`)).json();
      }),
    ).toBe(0);
    expect(again).toEqual(first);
  });

  it('have a tag by which they need not be sent again', async () => {
    await get(`/api/datasets/${id}`);
    const { headers } = await get(`/api/datasets/${id}`);
    const tag = headers.get('etag')!;
    expect(headers.get('cache-control')).toBe('no-cache');
    expect((await get(`/api/datasets/${id}`, { 'if-none-match': tag })).status).toBe(304);
    expect((await get(`/api/datasets/${id}`, { 'if-none-match': '"other"' })).status).toBe(200);
  });

  it('come compressed to whoever takes that', async () => {
    await get('/api/openapi.json');
    const names = Array.from({ length: 60 }, (_, i) => `field number ${i}`);
    const wide = (await t.importCsv(`${names.join(',')}\n${names.map(() => 1).join(',')}\n`, 'Wide.csv'))
      .dataset!;
    const plain = await (await get(`/api/datasets/${wide}`)).json();
    const small = await get(`/api/datasets/${wide}`, { 'accept-encoding': 'gzip' });
    expect(small.headers.get('content-encoding')).toBe('gzip');
    const text = await new Response(small.body!.pipeThrough(new DecompressionStream('gzip'))).text();
    expect(JSON.parse(text)).toEqual(plain);
    expect((await get(`/api/datasets/${wide}`)).headers.get('content-encoding')).toBeNull();
    expect(
      (await get(`/api/datasets/${wide}`, { 'accept-encoding': 'gzip;q=0' })).headers.get('content-encoding'),
    ).toBeNull();
  });

  it('are forgotten by whoever changes something here, at once', async () => {
    const nameOf = async () => (await (await get(`/api/datasets/${id}`)).json()).name;
    for (const name of ['One', 'Two', 'Three']) {
      await nameOf();
      expect((await t.send('PATCH', `/api/datasets/${id}`, { name })).status).toBe(200);
      expect(await nameOf()).toBe(name);
    }
  });

  it('are forgotten when another server changes something', async () => {
    const { body: made } = await t.send('POST', '/api/boards', {
      document: {
        version: 1,
        title: 'Here',
        levers: [plainPick(id, 'quay', 'quays', 'Quays')],
        charts: [plainChart(id, { by: { field: 'quay' }, measure: { aggregate: 'sum', field: 'n' } })],
      },
    });
    const titleOf = async () => (await (await get(`/api/boards/${made.id}/shown`)).json()).document.title;
    const before = await titleOf();
    await t.database.pool.query(
      `UPDATE sorvik.boards SET document = jsonb_set(document, '{title}', '"Elsewhere"') WHERE id = $1`,
      [made.id],
    );
    expect(before).not.toBe('Elsewhere');
    await soon(async () => expect(await titleOf()).toBe('Elsewhere'));
  });

  it('are not used while nothing is heard of changes', async () => {
    const nameOf = async () => (await (await get(`/api/datasets/${id}`)).json()).name;
    await nameOf();
    await t.database.pool.query(
      "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE query = 'LISTEN sorvik_changed' AND datname = current_database()",
    );
    await soon(async () => expect(t.database.changes.listening).toBe(false));
    await t.database.pool.query("UPDATE sorvik.datasets SET name = 'Unheard' WHERE id = $1", [id]);
    expect(await nameOf()).toBe('Unheard');
    // It listens again by itself, and keeps answers again.
    await expect.poll(() => t.database.changes.listening, { timeout: 10_000 }).toBe(true);
    await t.database.pool.query("UPDATE sorvik.datasets SET name = 'Heard' WHERE id = $1", [id]);
    await soon(async () => expect(await nameOf()).toBe('Heard'));
  });

  it('are never older than what changes while they are made', async () => {
    // One reads while another writes, over and over: the last read is of the last write.
    for (let i = 0; i < 30; i++) {
      const reads = Array.from({ length: 4 }, () => get('/api/datasets'));
      await t.database.pool.query('UPDATE sorvik.datasets SET name = $2 WHERE id = $1', [id, `N${i}`]);
      await Promise.all(reads);
    }
    await soon(async () => {
      const all = await (await get('/api/datasets')).json();
      expect(all.find((each: { id: string }) => each.id === id).name).toBe('N29');
    });
  });
});
