import { plainChart, plainPick } from '@sorvik/core/testing/documents';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type TeamApp, teamAddress, teamApp } from '../testing/team-app';
import { type TestApp, testApp } from '../testing/test-app';

const pages = 'https://pages.example';
let team: TeamApp;
let alone: TestApp;
let board: string;
let dataset: string;

beforeAll(async () => {
  team = await teamApp();
  await team.invited('Edda');
  dataset = await team.imported('Edda', 'Landings');
  const document = {
    version: 1,
    title: 'Landings',
    levers: [plainPick(dataset, 'quay', 'quays', 'Quays')],
    charts: [plainChart(dataset, { by: { field: 'quay' } })],
  };
  board = (await team.as('Edda', 'POST', '/api/boards', { document })).body.id;
  await team.as('Edda', 'POST', `/api/boards/${board}/publish`, { revision: 1 });
  alone = await testApp({ origins: [pages] });
});
afterAll(async () => {
  await team.t.close();
  await alone.close();
});

const linkFor = async (origins?: string[]) => {
  const { status, body } = await team.as('Edda', 'POST', `/api/boards/${board}/links`, {
    name: 'Page',
    days: 7,
    ...(origins ? { origins } : {}),
  });
  return { status, token: String(body.path ?? '').split('#')[1]!, body };
};
/** Asks as a page of an origin does. */
const ask = (path: string, link: string | null, origin = pages, init: RequestInit = {}) =>
  team.t.request(path, {
    ...init,
    headers: {
      host: teamAddress.host,
      origin,
      ...(link === null ? {} : { 'sorvik-link': link }),
      ...(init.headers as Record<string, string>),
    },
  });
const readableBy = (response: Response) => response.headers.get('access-control-allow-origin');

it('a page that its link allows asks for what is published, and for the data that it shows', async () => {
  const { token, body } = await linkFor([pages]);
  expect(body.link.origins).toEqual([pages]);
  const shown = await ask(`/api/boards/${board}/shown`, token);
  expect([shown.status, readableBy(shown)]).toEqual([200, pages]);
  expect(shown.headers.get('access-control-allow-credentials')).toBeNull();
  const { version } = (await (await ask(`/api/datasets/${dataset}`, token)).json()) as { version: number };
  const path = `/api/datasets/${dataset}/cube?version=${version}&key=quay&aggregate=count&as=json`;
  const cube = await ask(path, token);
  expect([cube.status, readableBy(cube)]).toEqual([200, pages]);
  expect(await cube.json()).toMatchObject({ cells: 2, dimensions: [{ field: 'quay' }] });
  const absent = await ask(`/api/datasets/${dataset}/fields/quay/absent`, token, pages, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ values: ['Quel', 'Nowhere'] }),
  });
  expect([absent.status, readableBy(absent)]).toEqual([200, pages]);
});

it('one that it does not allow is told so, and sees nothing', async () => {
  const { token: other } = await linkFor(['https://elsewhere.example']);
  const { token: plain } = await linkFor();
  for (const link of [other, plain, 'x'.repeat(43), null])
    for (const path of [`/api/boards/${board}/shown`, `/api/datasets/${dataset}`, `/pictures/${board}.svg`]) {
      const response = await ask(path, link);
      expect([path, response.status, readableBy(response)]).toEqual([path, 403, pages]);
      expect(((await response.json()) as { type: string }).type).toBe('/problems/foreign-origin');
    }
});

it('is over for pages too once it is withdrawn', async () => {
  const { token, body } = await linkFor([pages]);
  expect((await ask(`/api/boards/${board}/shown`, token)).status).toBe(200);
  await team.as('Edda', 'DELETE', `/api/boards/${board}/links/${body.link.id}`);
  expect((await ask(`/api/boards/${board}/shown`, token)).status).toBe(403);
});

it('nothing else is open to pages elsewhere, and nothing is changed by one', async () => {
  const { token } = await linkFor([pages]);
  for (const path of ['/api/boards', '/api/me', `/api/boards/${board}`, `/api/boards/${board}/links`]) {
    const response = await ask(path, token);
    expect([path, readableBy(response)]).toEqual([path, null]);
  }
  for (const method of ['POST', 'PATCH', 'DELETE', 'PUT'])
    for (const path of [`/api/datasets/${dataset}`, `/api/boards/${board}/shown`, '/api/boards']) {
      const response = await ask(path, token, pages, { method });
      expect([method, path, response.status]).toEqual([method, path, 403]);
      const own = await alone.request(path, { method, headers: { origin: pages } });
      expect([method, path, own.status]).toEqual([method, path, 403]);
    }
});

it('browsers ask first whether they may name a link', async () => {
  const response = await ask(`/api/boards/${board}/shown`, null, pages, {
    method: 'OPTIONS',
    headers: { 'access-control-request-method': 'GET', 'access-control-request-headers': 'sorvik-link' },
  });
  expect([response.status, readableBy(response)]).toEqual([204, pages]);
  expect(response.headers.get('access-control-allow-headers')).toContain('sorvik-link');
});

it('a server that is alone shows what is published to pages that it was started with', async () => {
  const made = (await alone.importCsv('quay,n\nQuel,1\n', 'Own.csv')).dataset!;
  const asked = (origin: string) => alone.request(`/api/datasets/${made}`, { headers: { origin } });
  expect([(await asked(pages)).status, readableBy(await asked(pages))]).toEqual([200, pages]);
  expect((await asked('https://elsewhere.example')).status).toBe(403);
  const own = await alone.request(`/api/datasets/${made}`);
  expect([own.status, own.headers.get('vary')?.toLowerCase()]).toEqual([
    200,
    expect.stringContaining('origin'),
  ]);
});

it('origins are origins', async () => {
  for (const origin of ['pages.example', 'https://pages.example/', 'ftp://pages.example', 'null', '*', 7])
    expect((await linkFor([origin as string])).status).toBe(422);
});
