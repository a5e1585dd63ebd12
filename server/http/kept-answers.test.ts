import { createServer, get as httpGet, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { getRequestListener } from '@hono/node-server';
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

  it('are made once for all who ask at the same time', async () => {
    const ask = async () => (await get(`/api/datasets/${id}`)).json();
    /** A change, until the database has told of it: what it tells comes in the order in which it was done. */
    const forget = async () => {
      await t.send('PATCH', `/api/datasets/${id}`, { name: 'Few' });
      const name = `after-${performance.now()}`;
      const heard = new Promise<void>((done) =>
        t.database.changes.onMessage((text) => text.includes(name) && done()),
      );
      await t.database.changes.say(JSON.stringify({ is: 'gone', author: { board: 'none', tab: name } }));
      await heard;
    };
    await forget();
    const alone = await asked(ask);
    await forget();
    let all: unknown[] = [];
    const together = await asked(async () => {
      all = await Promise.all(Array.from({ length: 20 }, ask));
    });
    expect(alone).toBeGreaterThan(0);
    expect(together).toBe(alone);
    for (const each of all) expect(each).toEqual(all[0]);
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
      "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name = 'sorvik-changes' AND datname = current_database()",
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

describe('answers that are sent ahead of the application', () => {
  let server: Server;
  let url: string;
  let through = 0;
  beforeAll(async () => {
    const answer = getRequestListener(t.app.fetch);
    server = createServer((request, response) => {
      if (t.sendKept(request, response)) return;
      through++;
      void answer(request, response);
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  });
  afterAll(() => new Promise((done) => server.close(done)));

  const plain = (headers: Headers) =>
    Object.fromEntries(
      [...headers].filter(
        ([name]) =>
          !/^(date|x-request-id|keep-alive|connection|transfer-encoding|content-length)$/.test(name),
      ),
    );

  it('have the same headers and the same body, and an id of their own', async () => {
    const address = `${url}/api/datasets/${id}`;
    await fetch(address).then((answer) => answer.text());
    const before = through;
    const made = await t.request(`/api/datasets/${id}`);
    const sent = await fetch(address);
    expect(through).toBe(before);
    expect(await sent.json()).toEqual(await made.json());
    expect(plain(sent.headers)).toMatchObject(plain(made.headers));
    expect(sent.headers.get('content-security-policy')).toContain("default-src 'self'");
    const again = await fetch(address);
    expect(again.headers.get('x-request-id')).not.toBe(sent.headers.get('x-request-id'));
    const unchanged = await fetch(address, { headers: { 'if-none-match': sent.headers.get('etag')! } });
    expect([unchanged.status, await unchanged.text()]).toEqual([304, '']);
    expect(through).toBe(before);
  });

  it('are made anew once something has changed, and for nobody who calls the server by another name', async () => {
    const address = `${url}/api/datasets/${id}`;
    await fetch(address).then((answer) => answer.text());
    const renamed = await fetch(address, {
      method: 'PATCH',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'Renamed' }),
    });
    expect(renamed.status).toBe(200);
    expect(await (await fetch(address)).json()).toMatchObject({ name: 'Renamed' });
    await fetch(address).then((answer) => answer.text());
    const stranger = await new Promise<number>((done, fail) => {
      httpGet(address, { headers: { host: 'harbour.example' } }, (response) => {
        response.resume();
        done(response.statusCode!);
      }).on('error', fail);
    });
    expect(stranger).toBe(403);
  });
});
