import { plainChart } from '@sorvik/core/testing/documents';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { eventsOf } from '../testing/events-of';
import { type TeamApp, teamAddress, teamApp } from '../testing/team-app';

let team: TeamApp;
let as: TeamApp['as'];
let board: string;

beforeAll(async () => {
  team = await teamApp();
  ({ as } = team);
  for (const name of ['Edda', 'Wim', 'Vito']) await team.invited(name);
  const dataset = await team.imported('Edda', 'Landings');
  const chart = plainChart(dataset, { by: { field: 'quay' }, measure: { aggregate: 'sum', field: 'tons' } });
  const document = { version: 1, title: 'Landings', levers: [], charts: [chart] };
  board = (await as('Edda', 'POST', '/api/boards', { document })).body.id;
  await team.give('Edda', 'board', board, 'Wim', 'edit');
  await team.give('Edda', 'board', board, 'Vito', 'view');
});
afterAll(() => team.t.close());

const turns = (who: string, chart: string | null, tab = `tab-of-${who}`) =>
  as(who, 'POST', `/api/boards/${board}/authors`, { tab, chart });
const hears = async (who: string, tab?: string) =>
  eventsOf(
    await team.t.request(`/api/boards/${board}/changes${tab === undefined ? '' : `?tab=${tab}`}`, {
      headers: { host: teamAddress.host, cookie: team.cookies[who]! },
    }),
  );
const toldNext = async (page: ReturnType<typeof eventsOf>) => {
  const { event, data } = await page.next();
  return [event, data && JSON.parse(data)];
};

it('authors hear who else is there and at which chart, until they go', async () => {
  const page = await hears('Edda', 'tab-of-Edda');
  expect(await toldNext(page)).toEqual(['board', { revision: 1 }]);
  const wim = await hears('Wim', 'tab-of-Wim');
  expect(await toldNext(page)).toEqual(['authors', [{ name: 'Wim', chart: null }]]);
  expect((await turns('Wim', 'by-quay')).status).toBe(204);
  expect(await toldNext(page)).toEqual(['authors', [{ name: 'Wim', chart: 'by-quay' }]]);
  // In two tabs somebody is there once, where they were heard of last.
  const another = await hears('Wim', 'another-tab');
  expect(await toldNext(page)).toEqual(['authors', [{ name: 'Wim', chart: null }]]);
  await another.leave();
  expect(await toldNext(page)).toEqual(['authors', [{ name: 'Wim', chart: 'by-quay' }]]);
  await wim.leave();
  expect(await toldNext(page)).toEqual(['authors', []]);
  await page.leave();
});

it('hears of what another one saves', async () => {
  const page = await hears('Edda');
  expect(await toldNext(page)).toEqual(['board', { revision: 1 }]);
  const patch = [{ op: 'replace', path: '/title', value: 'Landed' }];
  expect((await as('Wim', 'PATCH', `/api/boards/${board}`, patch, { 'if-match': '"1"' })).status).toBe(200);
  expect(await toldNext(page)).toEqual(['board', { revision: 2 }]);
  await page.leave();
});

it('is for authors alone, and only as long as they are', async () => {
  expect((await turns('Vito', null)).status).toBe(403);
  expect((await as('Vito', 'GET', `/api/boards/${board}/changes`)).status).toBe(403);
  const page = await hears('Wim');
  expect((await toldNext(page))[0]).toBe('board');
  await team.give('Edda', 'board', board, 'Wim', 'view');
  expect((await toldNext(page))[0]).toBe('rights');
  await page.leave();
});

it('refuses names of tabs and charts that cannot be any', async () => {
  for (const body of [
    { tab: 'x', chart: null },
    { tab: 'long-enough', chart: 'c'.repeat(101) },
    { tab: 'long-enough', chart: 4 },
    { tab: 'long-enough' },
  ])
    expect((await as('Edda', 'POST', `/api/boards/${board}/authors`, body)).status).toBe(422);
});

it('another server knows of it too', async () => {
  const page = await hears('Edda');
  await toldNext(page);
  const author = { board, tab: 'elsewhere', person: 'nils', name: 'Nils', chart: null };
  await team.t.database.pool.query('SELECT pg_notify($1, $2)', [
    'sorvik_said',
    JSON.stringify({ is: 'here', author }),
  ]);
  expect(await toldNext(page)).toEqual(['authors', [{ name: 'Nils', chart: null }]]);
  await page.leave();
});
