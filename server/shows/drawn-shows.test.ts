import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { roomCookie, roomText } from '@sorvik/core/board/show-room';
import { plainChart, plainCue, plainPick } from '@sorvik/core/testing/documents';
import { parseHTML } from 'linkedom';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TeamApp, teamAddress, teamApp } from '../testing/team-app';
import { type TestApp, testApp } from '../testing/test-app';

let web: string;
let t: TestApp;
beforeAll(async () => {
  web = mkdtempSync(join(tmpdir(), 'sorvik-drawn-'));
  const head = '<head><title>Sorvik</title></head>';
  writeFileSync(join(web, 'index.html'), `<html lang="en">${head}<body><div id="root"></div></body></html>`);
  t = await testApp({ web });
});
afterAll(async () => {
  await t.close();
  rmSync(web, { recursive: true });
});

const boardOf = (dataset: string, more: object = {}) => ({
  version: 1,
  title: 'Landings',
  levers: [plainPick(dataset, 'quay', 'quays', 'Quays')],
  charts: [
    plainChart(dataset, {
      id: 'tons',
      by: { field: 'quay' },
      measure: { aggregate: 'sum', field: 'tons' },
      cues: [plainCue('light', 'quays', { colour: 'ember' })],
    }),
  ],
  ...more,
});

/** A page as whoever asks for it gets it, once the show is drawn. */
async function drawnPage(ask: () => Response | Promise<Response>) {
  for (let tries = 0; ; tries++) {
    const response = await ask();
    expect(response.status).toBe(200);
    const { document } = parseHTML(await response.text());
    const drawn = document.querySelector('#drawn');
    if (drawn || tries > 120) return { document, drawn: drawn! };
    await new Promise((go) => setTimeout(go, 150));
  }
}
const stateOf = (drawn: Element, key: string) =>
  drawn.querySelector(`[data-key=${JSON.stringify(key)}]`)?.getAttribute('data-state');

describe('a show that arrives drawn', () => {
  let dataset: string;
  let board: string;
  beforeAll(async () => {
    const rows = 'quay,tons\nQuel,3\n"O\'Harl ""old"" <b>🌊",5\nNess,4\n';
    dataset = (await t.importCsv(rows, 'Landings.csv')).dataset!;
    board = (await t.send('POST', '/api/boards', { document: boardOf(dataset) })).body.id;
  });
  const page = (query = '', cookie = '') =>
    drawnPage(() => t.request(`/show/${board}${query}`, cookie ? { headers: { cookie } } : {}));

  it('has its charts as the page draws them, where its levers stand', async () => {
    const { drawn } = await page('?quays=Quel');
    expect(drawn.querySelector('h1')?.textContent).toBe('Landings');
    expect(drawn.querySelector('figure h2')?.textContent).toBe('Tons by quay');
    expect(stateOf(drawn, 'Quel')).toBe('lit');
    expect(stateOf(drawn, 'Ness')).toBe('muted');
    expect(drawn.querySelector('figcaption')?.textContent).toBe('1 of 3 quays lit: Quel (3).');
    expect(stateOf((await page('?quays=Ness')).drawn, 'Ness')).toBe('lit');
    // Names are texts, whatever they are.
    expect([...drawn.querySelectorAll('text')].map((text) => text.textContent)).toContain(
      'O\'Harl "old" <b>🌊',
    );
    expect(drawn.querySelector('b')).toBeNull();
  });

  it('is drawn for the room that a browser has kept, on its ground', async () => {
    const plots = { tons: { width: 512, height: 333 } };
    const room = roomText({ width: 1000, height: 700, ground: 'dark', plots });
    const { document, drawn } = await page('', `${roomCookie}=${room}`);
    const svg = drawn.querySelector('[data-part="plot"] > svg')!;
    expect([svg.getAttribute('width'), svg.getAttribute('height')]).toEqual(['512', '333']);
    expect(document.documentElement.getAttribute('data-bs-theme')).toBe('dark');
    // Without one it is drawn for a usual one; what is no room is none.
    const usual = (await page('', `${roomCookie}=nonsense`)).document;
    expect(usual.documentElement.getAttribute('data-bs-theme')).toBe('light');
  });

  it('is drawn in one column for a phone that has not seen it', async () => {
    const headers = { 'sec-ch-ua-mobile': '?1' };
    const { drawn } = await drawnPage(() => t.request(`/show/${board}`, { headers }));
    const svg = drawn.querySelector('[data-part="plot"] > svg')!;
    expect(Number(svg.getAttribute('width'))).toBeLessThan(390);
    expect(drawn.querySelector('aside')).toBeNull();
  });

  it('has the values of its charts for who runs no scripts', async () => {
    const { document } = await page();
    const plain = document.querySelector('noscript')!.innerHTML;
    expect(plain).toContain('<th scope="row">Quel</th>');
    expect(plain).toContain('&lt;b&gt;🌊');
  });

  it('is what is there now: other rows, another board', async () => {
    expect((await page()).drawn.querySelectorAll('[data-part="bar"]')).toHaveLength(3);
    const { headers } = await t.json(`/api/boards/${board}`);
    const changed = await t.send(
      'PATCH',
      `/api/boards/${board}`,
      [{ op: 'replace', path: '/title', value: 'Landed' }],
      { 'content-type': 'application/json-patch+json', 'if-match': headers.get('etag')! },
    );
    expect(changed.status).toBe(200);
    await expect.poll(async () => (await page()).drawn.querySelector('h1')?.textContent).toBe('Landed');
  });

  it('what cannot be drawn leaves its page as it is', async () => {
    const text = async (path: string) => (await t.request(path)).text();
    expect(await text('/show/nowhere')).not.toContain('id="drawn"');
    expect(await text(`/show/${board}?embed`)).not.toContain('id="drawn"');
    expect(await text(`/boards/${board}`)).not.toContain('id="drawn"');
    await t.send('DELETE', `/api/boards/${board}`);
    expect(await text(`/show/${board}`)).not.toContain('id="drawn"');
  });
});

describe('for a team', () => {
  let team: TeamApp;
  beforeAll(async () => {
    team = await teamApp({ web });
    await team.invited('Edda');
    await team.invited('Vito');
  });
  afterAll(() => team.t.close());

  it('is drawn for whoever may see it, of the rows that are theirs', async () => {
    const dataset = await team.imported('Edda', 'Landings');
    const made = await team.as('Edda', 'POST', '/api/boards', { document: boardOf(dataset) });
    const { id } = made.body;
    await team.as('Edda', 'POST', `/api/boards/${id}/publish`, { revision: 1 });
    const linked = await team.as('Edda', 'POST', `/api/boards/${id}/links`, { name: 'Quay', days: 7 });
    const link = String(linked.body.path).split('#')[1]!;
    const asked = (query: string) =>
      team.t.request(`/show/${id}${query}`, { headers: { host: teamAddress.host } });
    const { drawn } = await drawnPage(() => asked(`?link=${link}`));
    expect(drawn.querySelectorAll('[data-part="bar"]').length).toBeGreaterThan(0);
    // What was drawn for one is not for another.
    for (const query of ['', `?link=${'x'.repeat(43)}`])
      expect(await (await asked(query)).text()).not.toContain('id="drawn"');
    await team.as('Edda', 'DELETE', `/api/boards/${id}/links/${linked.body.link.id}`);
    expect(await (await asked(`?link=${link}`)).text()).not.toContain('id="drawn"');
  });
});
