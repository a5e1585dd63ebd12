import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { plainChart, plainPick } from '@sorvik/core/testing/documents';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type TeamApp, teamAddress, teamApp } from '../testing/team-app';
import { type TestApp, testApp } from '../testing/test-app';

const pages = ['https://pages.example', 'http://127.0.0.1:4311'];
let web: string;
let team: TeamApp;
let alone: TestApp;
let board: string;

beforeAll(async () => {
  web = mkdtempSync(join(tmpdir(), 'sorvik-framed-'));
  writeFileSync(join(web, 'index.html'), '<head><title>Sorvik</title></head>');
  team = await teamApp({ web });
  await team.invited('Edda');
  const dataset = await team.imported('Edda', 'Landings');
  const document = {
    version: 1,
    title: 'Landings',
    levers: [plainPick(dataset, 'quay', 'quays', 'Quays')],
    charts: [plainChart(dataset, { by: { field: 'quay' } })],
  };
  board = (await team.as('Edda', 'POST', '/api/boards', { document })).body.id;
  await team.as('Edda', 'POST', `/api/boards/${board}/publish`, { revision: 1 });
  alone = await testApp({ origins: pages, web });
});
afterAll(async () => {
  await team.t.close();
  await alone.close();
  rmSync(web, { recursive: true });
});

const linkFor = async (origins?: string[]) => {
  const given = { name: 'Page', days: 7, ...(origins ? { origins } : {}) };
  const { body } = await team.as('Edda', 'POST', `/api/boards/${board}/links`, given);
  return { token: String(body.path).split('#')[1]!, id: body.link.id as string };
};

/** Who may have a page in a frame, and with whom it speaks there. */
async function framing(response: Response) {
  const policy = response.headers.get('content-security-policy') ?? '';
  return {
    status: response.status,
    frames: /frame-ancestors ([^;]*)/.exec(policy)?.[1],
    older: response.headers.get('x-frame-options'),
    told: /<meta name="sorvik-pages" content="([^"]*)" \/>/.exec(await response.text())?.[1],
  };
}
const none = { status: 200, frames: "'none'", older: 'SAMEORIGIN', told: undefined };
const allowed = (origins: string[]) => ({
  status: 200,
  frames: origins.join(' '),
  older: null,
  told: origins.join(' '),
});
const inTeam = async (path: string) =>
  framing(await team.t.request(path, { headers: { host: teamAddress.host } }));

it('a show is in frames of the pages that its link names, and speaks with them', async () => {
  const { token, id } = await linkFor(pages);
  const path = `/show/${board}?embed&link=${token}`;
  const response = await team.t.request(path, { headers: { host: teamAddress.host } });
  // All else of the policy stays as it is everywhere.
  expect(response.headers.get('content-security-policy')).toContain("default-src 'self'");
  // What a link shows is asked for with the link, which cannot be said of what is fetched along.
  expect(response.headers.get('link')).toBeNull();
  expect(await framing(response)).toEqual(allowed(pages));
  await team.as('Edda', 'DELETE', `/api/boards/${board}/links/${id}`);
  expect(await inTeam(path)).toEqual(none);
});

it('without a link that names pages it is in no frame, and nothing else ever is', async () => {
  const [{ token }, { token: plain }] = [await linkFor(pages), await linkFor()];
  for (const path of [
    `/show/${board}?embed`,
    `/show/${board}?embed&link=${plain}`,
    `/show/${board}?embed&link=${'x'.repeat(43)}`,
    `/show/${board}?link=${token}`,
    `/show/${board}?embed=on&link=${token}`,
    `/show/${board}/draft?embed&link=${token}`,
    `/boards/${board}?embed&link=${token}`,
    `/?embed&link=${token}`,
  ])
    expect([path, await inTeam(path)]).toEqual([path, none]);
});

it('a server that is alone has its shows in frames of the pages that it was started with', async () => {
  const { dataset = '' } = await alone.importCsv('quay,n\nQuel,1\n', 'Own.csv');
  const document = {
    version: 1,
    title: 'Own',
    levers: [],
    charts: [plainChart(dataset, { by: { field: 'quay' } })],
  };
  const { body } = await alone.send('POST', '/api/boards', { document });
  const framed = await alone.request(`/show/${body.id}?embed&count=3`);
  expect(framed.headers.get('link')).toContain(`/api/boards/${body.id}/shown`);
  expect(await framing(framed)).toEqual(allowed(pages));
  expect(await framing(await alone.request(`/show/${body.id}`))).toEqual(none);
});

it('hears of changes by the link in its address', async () => {
  const { token } = await linkFor(pages);
  const changes = (link: string) => team.as(null, 'GET', `/api/changes?dataset=landings${link}`);
  expect((await changes('')).status).toBe(401);
  expect((await changes(`&link=${'x'.repeat(43)}`)).status).toBe(401);
  const heard = await changes(`&link=${token}`);
  expect([heard.status, heard.headers.get('content-type')]).toEqual([200, 'text/event-stream']);
});
