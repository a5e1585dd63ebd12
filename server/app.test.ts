import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import { plainChart, plainPick } from '@sorvik/core/testing/documents';
import { demoBoards } from '@sorvik/demo/main';
import { Ajv2020 } from 'ajv/dist/2020';
import pino from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from './app';
import { openApiPath } from './http/openapi';
import { connectionTo } from './testing/connection-to';
import { type TestApp, testApp } from './testing/test-app';

let t: TestApp;
beforeAll(async () => {
  t = await testApp();
});
afterAll(() => t.close());

describe('the OpenAPI document', () => {
  it('lists just the routes there are', async () => {
    const { body } = await t.json('/api/openapi.json');
    expect(body.openapi).toBe('3.1.0');
    const described = Object.entries(body.paths).flatMap(([path, methods]) =>
      Object.keys(methods as object).map((method) => `${method} ${path}`),
    );
    const routed = t.routes.app.routes.map(
      ({ method, path }) => `${method.toLowerCase()} ${openApiPath(path)}`,
    );
    expect(described.sort()).toEqual(routed.sort());
    expect(described.length).toBeGreaterThan(20);
  });

  it('describes the answers that are given', async () => {
    const { body: document } = await t.json('/api/openapi.json');
    const ajv = new Ajv2020({ strict: false });
    ajv.addSchema({ ...document, $id: 'api' });
    const { dataset } = await t.importCsv(`quay,n\n${'Quel,1\n'.repeat(30)}Harl,x\n`, 'Few.csv');
    const { body: board } = await t.send('POST', '/api/boards', { document: demoBoards[0] });
    const upload = await t.stage(dataset!, 'quay,n\nQuel,2\n', 'mode=append');
    const { body: connection } = await t.send('POST', '/api/connections', connectionTo(t.url));
    const named: Record<string, string> = {
      boards: board.id,
      imports: upload.id,
      connections: connection.id,
    };
    const pathOf = (path: string) =>
      path
        .replace('{id}', named[path.split('/')[2]!] ?? dataset!)
        .replace('{schema}/{table}', 'sorvik/boards')
        .replace('{key}', 'n')
        .replace('{revision}', '1');
    const { version } = (await t.json(`/api/datasets/${dataset}`)).body;
    const query: Record<string, string> = {
      '/api/datasets/{id}/fields/{key}/retype': '?type=text',
      '/api/datasets/{id}/versions/changes': '?from=1&to=1',
      '/api/datasets/{id}/cube/size': `?version=${version}&key=quay`,
    };
    let checked = 0;
    for (const [path, methods] of Object.entries<
      Record<string, { responses: Record<string, { content?: object }> }>
    >(document.paths)) {
      const content = methods.get?.responses['200']?.content;
      if (!content || !('application/json' in content)) continue;
      const { status, body } = await t.json(pathOf(path) + (query[path] ?? ''));
      expect(status, path).toBe(200);
      const pointer = `api#/paths/${path.replaceAll('~', '~0').replaceAll('/', '~1').replaceAll('{', '%7B').replaceAll('}', '%7D')}/get/responses/200/content/application~1json/schema`;
      const validate = ajv.compile({ $ref: pointer });
      expect(validate(body), `${path}: ${ajv.errorsText(validate.errors)}`).toBe(true);
      checked++;
    }
    expect(checked).toBeGreaterThan(10);
    const missing = await t.json('/api/boards/nowhere');
    expect(ajv.validate({ $ref: 'api#/components/schemas/Problem' }, missing.body)).toBe(true);
  });
});

describe('at the door', () => {
  it('sets headers that keep strangers out', async () => {
    const { headers } = await t.json('/healthz');
    expect(headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('x-request-id')).toMatch(/^[0-9a-f-]{36}$/);
  });

  it('answers to its own names and pages only', async () => {
    expect((await t.json('/api/boards', { headers: { host: 'evil.example' } })).status).toBe(403);
    const foreign = await t.send('POST', '/api/boards', {}, { origin: 'http://evil.example' });
    expect(foreign.status).toBe(403);
  });

  it('says what is wrong in a problem document', async () => {
    const lost = await t.json('/api/nothing');
    expect(lost.status).toBe(404);
    expect(lost.headers.get('content-type')).toBe('application/problem+json');
    expect(lost.body).toMatchObject({ title: 'Not found', status: 404, instance: '/api/nothing' });
    const broken = await t.json('/api/boards', {
      method: 'POST',
      body: '{',
      headers: { 'content-type': 'application/json' },
    });
    expect(broken).toMatchObject({ status: 400, body: { title: 'Not JSON' } });
    const large = await t.send('POST', '/api/boards', { document: { title: 'x'.repeat(5_000_000) } });
    expect(large.status).toBe(413);
  });
});

describe('the files of the page', () => {
  const web = mkdtempSync(join(tmpdir(), 'sorvik-web-'));
  mkdirSync(join(web, 'assets'));
  writeFileSync(join(web, 'index.html'), '<head><title>Sorvik</title></head>');
  writeFileSync(join(web, 'assets', 'index-1a2b.js'), 'let x;');
  writeFileSync(join(web, 'assets', 'index-1a2b.js.gz'), gzipSync('let x;'));
  writeFileSync(join(web, '..', 'sorvik-beside.txt'), 'not for you');
  afterAll(() => {
    rmSync(web, { recursive: true });
    rmSync(join(web, '..', 'sorvik-beside.txt'));
  });
  const appWithWeb = () =>
    createApp({
      database: t.database,
      sources: t.sources,
      jobs: t.jobs,
      refresher: t.refresher,
      scheduler: t.scheduler,
      log: pino({ level: 'silent' }),
      web,
    }).app;
  const get = async (path: string) => {
    const app = appWithWeb();
    const response = await app.request(path, { headers: { host: 'localhost' } });
    const { status, headers } = response;
    const [type, cache] = ['content-type', 'cache-control'].map((name) => headers.get(name));
    return { status, type, cache, text: await response.text() };
  };

  it('are served with their type; those whose names change with their content are kept for good', async () => {
    expect(await get('/assets/index-1a2b.js')).toMatchObject({
      status: 200,
      type: expect.stringContaining('text/javascript'),
      cache: 'public, max-age=31536000, immutable',
      text: 'let x;',
    });
  });
  it('a path of the application gets its page, which is asked for anew each time', async () => {
    for (const path of ['/', '/boards/some-board', '/show/some-board?count=3'])
      expect(await get(path)).toMatchObject({
        status: 200,
        type: expect.stringContaining('text/html'),
        cache: 'no-cache',
        text: '<head><title>Sorvik</title></head>',
      });
  });
  it('sends a file as it was compressed when it was built, to whoever takes that', async () => {
    const app = appWithWeb();
    const sent = await app.request('/assets/index-1a2b.js', {
      headers: { host: 'localhost', 'accept-encoding': 'gzip' },
    });
    expect(sent.headers.get('content-encoding')).toBe('gzip');
    expect(sent.headers.get('content-type')).toContain('javascript');
    expect(gunzipSync(Buffer.from(await sent.arrayBuffer())).toString()).toBe('let x;');
  });
  it('the page of a show says what is to be fetched along with it, each as the page will ask for it', async () => {
    const { dataset = '' } = await t.importCsv('quay,n\nQuel,1\nHarl,2\n', 'Along.csv');
    const { body } = await t.send('POST', '/api/boards', {
      document: {
        version: 1,
        title: 'Shown at once',
        levers: [plainPick(dataset, 'quay', 'quays', 'Quays')],
        charts: [plainChart(dataset, { by: { field: 'quay' }, measure: { aggregate: 'sum', field: 'n' } })],
      },
    });
    const app = appWithWeb();
    const linksOf = async (path: string) => {
      const { headers } = await app.request(path, { headers: { host: 'localhost' } });
      return [...(headers.get('link') ?? '').matchAll(/<([^>]+)>; rel=preload; as=fetch/g)].map(
        ([, at]) => at!,
      );
    };
    const links = await linksOf(`/show/${body.id}`);
    expect(links[0]).toBe(`/api/boards/${body.id}/shown`);
    expect(links).toContain(`/api/datasets/${dataset}`);
    expect(links.filter((link) => link.includes('/cube?'))).not.toEqual([]);
    for (const link of links)
      expect((await app.request(link, { headers: { host: 'localhost' } })).status, link).toBe(200);
    expect(await linksOf('/show/nowhere')).toEqual([]);
    expect(await linksOf(`/boards/${body.id}`)).toEqual([]);
  });
  it('the page of a show says how it is shown where its address is pasted, with its picture', async () => {
    const { dataset = '' } = await t.importCsv('quay,n\nQuel,1\n', 'Shared.csv');
    const { body } = await t.send('POST', '/api/boards', {
      document: {
        version: 1,
        title: 'Shared "far" & <wide>',
        subtitle: 'With a picture',
        levers: [plainPick(dataset, 'quay', 'quays', 'Quays')],
        charts: [plainChart(dataset, { by: { field: 'quay' } })],
      },
    });
    const app = appWithWeb();
    const headers = { host: 'localhost:4310' };
    const text = await (
      await app.request(`http://localhost:4310/show/${body.id}?quays=Quel`, { headers })
    ).text();
    const said = (property: string) =>
      new RegExp(`<meta property="og:${property}" content="([^"]*)" />`).exec(text)?.[1];
    expect(said('title')).toBe('Shared &quot;far&quot; &amp; &lt;wide>');
    expect(said('description')).toBe('With a picture');
    const image = said('image')!.replaceAll('&amp;', '&');
    expect(image).toBe(`http://localhost:4310/pictures/${body.id}.png?quays=Quel&scale=1`);
    const picture = await app.request(image, { headers });
    expect([picture.status, picture.headers.get('content-type')]).toEqual([200, 'image/png']);
    const none = await (await app.request('http://localhost:4310/show/nowhere', { headers })).text();
    expect(none).not.toContain('og:');
  });
  it('what is not there, and what lies beside them, is not found', async () => {
    for (const path of [
      '/assets/gone.js',
      '/..%2fsorvik-beside.txt',
      '/assets/..%2f..%2fsorvik-beside.txt',
    ]) {
      const { status, text } = await get(path);
      expect([400, 404], path).toContain(status);
      expect(text).not.toContain('not for you');
    }
  });
});

it('says so when the database is gone, and recovers when it is back', async () => {
  const own = await testApp();
  expect((await own.json('/healthz')).body).toEqual({ status: 'ok', database: 'up' });
  await own.json('/api/boards');
  // What a killed server does to the connections of a pool.
  await t.database.pool.query(`SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1`, [
    (await own.database.pool.query('SELECT current_database() AS name')).rows[0].name,
  ]);
  await expect.poll(async () => (await own.json('/api/boards')).status).toBe(200);
  await own.database.pool.end();
  expect((await own.json('/healthz')).status).toBe(503);
  own.database.close = async () => {};
  await own.close();
});
