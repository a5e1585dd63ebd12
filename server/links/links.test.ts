import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import { plainChart, plainPick } from '@sorvik/core/testing/documents';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { eventsOf } from '../testing/events-of';
import { type TeamApp, teamAddress, teamApp } from '../testing/team-app';

let team: TeamApp;
let as: TeamApp['as'];
let dataset: string;
let board: string;
let other: string;

const document = (title: string) => ({
  version: 1,
  title,
  levers: [plainPick(dataset, 'quay', 'quays', 'Quays')],
  charts: [plainChart(dataset, { by: { field: 'quay' }, measure: { aggregate: 'sum', field: 'tons' } })],
});

const make = (more: object = {}, who = 'Edda', of = board) =>
  as(who, 'POST', `/api/boards/${of}/links`, { name: 'Harbour office', days: 7, ...more });
const tokenOf = ({ body }: { body: { path: string } }) => body.path.split('#')[1]!;
const follow = (token: string, password?: string) =>
  as(null, 'POST', '/api/links/follow', { token, ...(password === undefined ? {} : { password }) });

/** A browser in which a link was followed. */
async function visitor(token: string, password?: string) {
  const { status, headers } = await follow(token, password);
  expect(status).toBe(200);
  const cookie = team.cookieOf(headers);
  return (method: string, path: string, body?: unknown) => as(null, method, path, body, { cookie });
}

beforeAll(async () => {
  team = await teamApp();
  ({ as } = team);
  for (const name of ['Edda', 'Vito']) await team.invited(name);
  dataset = await team.imported('Edda', 'Landings');
  board = (await as('Edda', 'POST', '/api/boards', { document: document('Landings') })).body.id;
  other = (await as('Edda', 'POST', '/api/boards', { document: document('Other') })).body.id;
  await team.give('Edda', 'board', board, 'Vito', 'edit');
});
afterAll(() => team.t.close());

it('a link is of what is published, and is made by whoever owns the board', async () => {
  const early = await make();
  expect([early.status, early.body.type]).toEqual([409, '/problems/not-published']);
  for (const id of [board, other])
    expect((await as('Edda', 'POST', `/api/boards/${id}/publish`, { revision: 1 })).status).toBe(200);
  expect((await make({}, 'Vito')).status).toBe(403);
  expect((await as('Vito', 'GET', `/api/boards/${board}/links`)).status).toBe(403);
  const { status, body } = await make();
  expect(status).toBe(201);
  expect(body.link).toMatchObject({ name: 'Harbour office', uses: 0, locked: false, madeBy: 'Edda' });
  expect(JSON.stringify((await as('Edda', 'GET', `/api/boards/${board}/links`)).body)).not.toContain(
    tokenOf({ body }),
  );
});

describe('whoever has a link', () => {
  let visit: Awaited<ReturnType<typeof visitor>>;
  let version: number;
  beforeEach(async () => {
    visit = await visitor(tokenOf(await make()));
    ({ version } = (await visit('GET', `/api/datasets/${dataset}`)).body);
  });

  it('sees the board with its figures', async () => {
    const { status, body } = await visit('GET', `/api/boards/${board}/shown`);
    expect([status, body.document.title]).toEqual([200, 'Landings']);
    const query = `version=${version}&key=quay&aggregate=sum.tons`;
    expect((await visit('GET', `/api/datasets/${dataset}/cube?${query}`)).status).toBe(200);
    expect(
      (await visit('GET', `/api/datasets/${dataset}/cube/size?version=${version}&key=quay`)).status,
    ).toBe(200);
    const values = await visit('GET', `/api/datasets/${dataset}/fields/quay/values?offset=0&limit=10`);
    expect(values.body.total).toBe(2);
  });

  it('and nothing else: no route, no board, no field and no figure besides', async () => {
    const allowed = new Set(['shown', 'nothing', 'visitor']);
    for (const { method, path, needs } of team.t.routes.specs) {
      const what = typeof needs === 'string' ? needs : Object.values(needs)[0]!;
      if (allowed.has(what)) continue;
      const address = path
        .replace('/boards/:id', `/boards/${board}`)
        .replace('/datasets/:id', `/datasets/${dataset}`)
        .replace(/:\w+/g, 'none');
      const { status } = await visit(method.toUpperCase(), address, method === 'get' ? undefined : {});
      expect([`${method} ${path}`, status]).toEqual([`${method} ${path}`, 401]);
    }
    expect((await visit('GET', `/api/boards/${other}/shown`)).status).toBe(401);
    const cube = (query: string) =>
      visit('GET', `/api/datasets/${dataset}/cube?version=${version}&${query}`).then(({ status }) => status);
    expect(await cube('key=tons&aggregate=count')).toBe(403);
    expect(await cube('key=quay&aggregate=max.tons')).toBe(403);
    expect((await visit('GET', `/api/datasets/${dataset}/fields/tons/values?offset=0&limit=9`)).status).toBe(
      403,
    );
  });

  it('sees only what is published, whatever is being worked at', async () => {
    const patch = [{ op: 'replace', path: '/title', value: 'Secret plans' }];
    const saved = await as('Vito', 'PATCH', `/api/boards/${board}`, patch);
    expect([200, 428]).toContain(saved.status);
    await as('Edda', 'PATCH', `/api/boards/${board}`, patch);
    expect((await visit('GET', `/api/boards/${board}/shown`)).body.document.title).toBe('Landings');
  });

  it('sees no rows that a rule keeps for somebody', async () => {
    const rows = async () => (await visit('GET', `/api/datasets/${dataset}`)).body.rows;
    expect(await rows()).toBe(2);
    await as('Edda', 'PUT', `/api/datasets/${dataset}/rule`, {
      rule: "quay = 'Quel' OR quay = :person_email",
    });
    expect(await rows()).toBe(1);
    const response = await team.t.request(
      `/api/datasets/${dataset}/cube?version=${version}&key=quay&aggregate=sum.tons`,
      { headers: { host: teamAddress.host, cookie: await cookieFor() } },
    );
    const cube = cubeFromArrow(new Uint8Array(await response.arrayBuffer()));
    expect(cube.dimensions[0]!.values).toEqual(['Quel']);
    await as('Edda', 'PUT', `/api/datasets/${dataset}/rule`, { rule: null });
  });
  const cookieFor = async () => team.cookieOf((await follow(tokenOf(await make()))).headers);
});

describe('a link', () => {
  it('is withdrawn at once, also for whoever has come by it', async () => {
    const made = await make({ name: 'Withdrawn' });
    const visit = await visitor(tokenOf(made));
    const sees = async () => {
      const { status, body } = await visit('GET', `/api/boards/${board}/shown`);
      return [status, body.type];
    };
    expect((await sees())[0]).toBe(200);
    const gone = await as('Edda', 'DELETE', `/api/boards/${board}/links/${made.body.link.id}`);
    expect(gone.status).toBe(204);
    expect(await sees()).toEqual([401, '/problems/link-ended']);
    expect((await visit('GET', `/api/datasets/${dataset}`)).status).toBe(401);
    const again = await follow(tokenOf(made));
    expect([again.status, again.body.type]).toEqual([404, '/problems/link-ended']);
    expect((await as('Edda', 'DELETE', `/api/boards/${board}/links/${made.body.link.id}`)).status).toBe(404);
  });

  it('ends when it is to', async () => {
    const made = await make({ name: 'Short', days: 1 });
    const visit = await visitor(tokenOf(made));
    await team.t.database.pool.query(
      "UPDATE sorvik.links SET ends_at = now() - interval '1 second' WHERE name = 'Short'",
    );
    team.t.database.changes.tell();
    expect((await visit('GET', `/api/boards/${board}/shown`)).status).toBe(401);
    expect((await follow(tokenOf(made))).status).toBe(404);
    expect((await make({ days: null })).body.link.endsAt).toBeNull();
  });

  it('wants its password, and not very often a wrong one', async () => {
    const made = await make({ name: 'Locked', password: 'three grey seals' });
    expect(made.body.link.locked).toBe(true);
    const token = tokenOf(made);
    expect((await follow(token)).body).toEqual({ locked: true });
    expect((await follow(token)).headers.get('set-cookie')).toBeNull();
    const wrong = await follow(token, 'three grey sharks');
    expect([wrong.status, wrong.body.type]).toEqual([401, '/problems/wrong-password']);
    expect((await follow(token, 'three grey seals')).body).toEqual({ locked: false, board, positions: '' });
    const statuses = new Set<number>();
    for (let i = 0; i < 12; i++) statuses.add((await follow(token, `wrong ${i}`)).status);
    expect([...statuses]).toEqual([401, 429]);
    const { rows } = await team.t.database.pool.query(
      "SELECT hash, password FROM sorvik.links WHERE name = 'Locked'",
    );
    expect(JSON.stringify(rows)).not.toContain('grey seals');
    expect(rows[0].hash).not.toBe(token);
  });

  it('begins where its author says, with levers that stay there', async () => {
    const positions = 'quays=Harl';
    const made = await make({ name: 'Harl only', positions, fixed: ['quays'] });
    const followed = await follow(tokenOf(made));
    expect(followed.body.positions).toBe(positions);
    const visit = await visitor(tokenOf(made));
    const [lever] = (await visit('GET', `/api/boards/${board}/shown`)).body.document.levers;
    expect(lever).toMatchObject({ id: 'quays', hidden: true });
    expect(JSON.stringify(lever)).toContain('Harl');
    const [own] = (await as('Edda', 'GET', `/api/boards/${board}/shown`)).body.document.levers;
    expect(own).not.toHaveProperty('hidden');
  });

  it('counts its uses, and is in the audit trail', async () => {
    const made = await make({ name: 'Counted' });
    await visitor(tokenOf(made));
    await visitor(tokenOf(made));
    const [link] = (await as('Edda', 'GET', `/api/boards/${board}/links`)).body;
    expect(link).toMatchObject({ name: 'Counted', uses: 2 });
    const { body } = await as('Olga', 'GET', '/api/audit?action=link-followed');
    expect(body[0]).toMatchObject({ person: null, thing: `board/${board}`, detail: { name: 'Counted' } });
    const file = await as('Olga', 'GET', '/api/audit.ndjson');
    expect(file.body).not.toContain(tokenOf(made));
  });

  it('goes with its board', async () => {
    const made = await make({ name: 'Of another' }, 'Edda', other);
    const visit = await visitor(tokenOf(made));
    expect((await visit('GET', `/api/boards/${other}/shown`)).status).toBe(200);
    expect((await visit('GET', `/api/boards/${board}/shown`)).status).toBe(401);
    expect((await as('Edda', 'DELETE', `/api/boards/${other}`)).status).toBe(204);
    expect((await visit('GET', `/api/boards/${other}/shown`)).status).toBe(401);
    expect((await follow(tokenOf(made))).status).toBe(404);
  });

  it('cannot be guessed, and a cookie of one is none of another', async () => {
    for (const token of ['x', 'a'.repeat(43), '../..', '%00'])
      expect((await follow(token)).status, token).toBe(404);
    const made = await make({ name: 'Cookie' });
    const { headers } = await follow(tokenOf(made));
    expect(headers.get('set-cookie')).toMatch(/HttpOnly; Secure; SameSite=Lax$/);
    const forged = `__Host-sorvik-visit-${made.body.link.id.slice(0, 8)}=${tokenOf(made)}`;
    expect((await as(null, 'GET', `/api/boards/${board}/shown`, undefined, { cookie: forged })).status).toBe(
      401,
    );
  });
});

it('what is open hears of a withdrawal, also of one right after another change', async () => {
  const { body } = await make();
  const cookie = team.cookieOf((await follow(tokenOf({ body }))).headers);
  const page = eventsOf(
    await team.t.request(`/api/changes?dataset=${dataset}`, { headers: { host: teamAddress.host, cookie } }),
  );
  expect((await page.next()).event).toBe('datasets');
  team.t.database.changes.tell();
  await new Promise((done) => setTimeout(done, 300));
  await as('Edda', 'DELETE', `/api/boards/${board}/links/${body.link.id}`);
  expect((await page.next()).event).toBe('rights');
  await page.leave();
});

describe('a picture by a link', () => {
  const picture = (token: string, file = 'chart.csv', more = '') =>
    team.t.request(`/pictures/${board}/${file}?link=${token}${more}`, {
      headers: { host: teamAddress.host },
    });

  it('is seen by whoever has its address, on any page', async () => {
    const token = tokenOf(await make({ positions: 'quays=Quel' }));
    const answer = await picture(token, 'chart.svg');
    expect(answer.status).toBe(200);
    expect(answer.headers.get('cross-origin-resource-policy')).toBe('cross-origin');
    expect((await picture(token)).status).toBe(200);
    for (const other of ['', 'x'.repeat(43)]) expect((await picture(other)).status).toBe(401);
    const foreign = await team.t.request(`/pictures/${other}/chart.csv?link=${token}`, {
      headers: { host: teamAddress.host },
    });
    expect(foreign.status).toBe(401);
  });

  it('holds levers where the author has fixed them', async () => {
    const token = tokenOf(await make({ positions: 'quays=Quel', fixed: ['quays'] }));
    expect((await picture(token)).status).toBe(200);
    expect((await picture(token, 'chart.csv', '&quays=Harl')).status).toBe(422);
  });

  it('is over once the link is, and never is one of a link with a password', async () => {
    const made = await make();
    const token = tokenOf(made);
    expect((await picture(token)).status).toBe(200);
    await as('Edda', 'DELETE', `/api/boards/${board}/links/${made.body.link.id}`);
    expect((await picture(token)).status).toBe(401);
    expect((await picture(tokenOf(await make({ password: 'seven seals of wax' })))).status).toBe(401);
  });
});
