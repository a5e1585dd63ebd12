import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';
import { passwordProblem } from './password';

const address = new URL('https://boards.example.org');
const password = 'seven brown herons';
const email = 'olga@example.org';

let t: TestApp;
let cookie: string;

const ask = async (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) => {
  const response = await t.request(path, {
    method,
    headers: {
      host: address.host,
      ...(method === 'GET' ? {} : { origin: address.origin, 'content-type': 'application/json' }),
      ...headers,
    },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const text = await response.text();
  return { status: response.status, headers: response.headers, body: text ? JSON.parse(text) : null };
};
const cookieOf = (headers: Headers) => headers.get('set-cookie')!.split(';')[0]!;
const signIn = (given: string, as = email, headers = {}) =>
  ask('POST', '/api/sign-in', { email: as, password: given }, headers);
const whoIs = async (held: string) => (await ask('GET', '/api/me', undefined, { cookie: held })).body.person;

beforeAll(async () => {
  t = await testApp({ team: { address, proxies: [] } });
});
afterAll(() => t.close());

it('the first link makes the first owner, once', async () => {
  const early = (await t.people.firstLink())!;
  const token = (await t.people.firstLink())!;
  // A link of an earlier start does not work any more.
  expect((await ask('POST', '/api/invitations/look', { token: early })).status).toBe(404);
  expect((await ask('POST', '/api/invitations/look', { token })).body).toEqual({ known: false, owner: true });
  const take = (more = {}) =>
    ask('POST', '/api/invitations/take', { token, email, name: 'Olga', password, ...more });
  expect((await take({ password: 'short' })).body.errors[0]).toMatchObject({ pointer: '/password' });
  expect((await take({ email: 'nowhere' })).body.errors[0]).toMatchObject({ pointer: '/email' });
  expect((await take({ name: ' ' })).body.errors[0]).toMatchObject({ pointer: '/name' });
  const [first, second] = await Promise.all([take(), take()]);
  expect([first.status, second.status].sort()).toEqual([200, 404]);
  cookie = cookieOf((first.status === 200 ? first : second).headers);
  expect(await whoIs(cookie)).toMatchObject({ email, name: 'Olga', owner: true });
  expect(await t.people.firstLink()).toBeNull();
});

describe('a session', () => {
  it('is in a cookie that scripts cannot read, over TLS alone, from this site', async () => {
    const { headers } = await signIn(password);
    expect(headers.get('set-cookie')).toMatch(
      /^__Host-sorvik=[\w-]{43}; Max-Age=2592000; Path=\/; HttpOnly; Secure; SameSite=Lax$/,
    );
    expect(headers.get('strict-transport-security')).toContain('max-age=31536000; includeSubDomains');
    const kept = await t.database.pool.query('SELECT password FROM sorvik.people');
    expect(kept.rows[0].password).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
    const { rows } = await t.database.pool.query('SELECT * FROM sorvik.sessions');
    expect(JSON.stringify(rows)).not.toContain(cookieOf(headers).split('=')[1]);
  });

  it('is another one after each sign-in, whatever was there before', async () => {
    const planted = '__Host-sorvik=planted';
    const { headers } = await signIn(password, email, { cookie: planted });
    expect(cookieOf(headers)).not.toBe(planted);
    const before = cookieOf(headers);
    const again = cookieOf((await signIn(password, email, { cookie: before })).headers);
    expect(again).not.toBe(before);
    expect(await whoIs(before)).toBeUndefined();
    expect(await whoIs(again)).toBeDefined();
  });

  it('ends when one signs out, is ended from elsewhere, or has been there for too long', async () => {
    const held = cookieOf((await signIn(password)).headers);
    await ask('POST', '/api/sign-out', undefined, { cookie: held });
    expect(await whoIs(held)).toBeUndefined();

    const other = cookieOf((await signIn(password)).headers);
    const { body } = await ask('GET', '/api/me/sessions', undefined, { cookie: other });
    expect(body.filter(({ here }: { here: boolean }) => here)).toHaveLength(1);
    const { id } = body.find(({ here }: { here: boolean }) => here);
    expect((await ask('DELETE', `/api/me/sessions/${id}`, undefined, { cookie })).status).toBe(204);
    expect(await whoIs(other)).toBeUndefined();
    expect((await ask('DELETE', `/api/me/sessions/${id}`, undefined, { cookie })).status).toBe(404);

    for (const column of ['used_at', 'created_at']) {
      const late = cookieOf((await signIn(password)).headers);
      await t.database.pool.query(
        `UPDATE sorvik.sessions SET ${column} = now() - interval '31 days' WHERE id = (SELECT id FROM sorvik.sessions ORDER BY created_at DESC LIMIT 1)`,
      );
      t.database.changes.tell();
      expect(await whoIs(late)).toBeUndefined();
    }
  });

  it('and is gone from the database with the links that have ended', async () => {
    await t.people.invite({});
    await t.database.pool.query("UPDATE sorvik.invitations SET ends_at = now() - interval '1 minute'");
    const here = cookieOf((await signIn(password)).headers);
    await t.tidy();
    const { rows } = await t.database.pool.query(
      `SELECT (SELECT count(*) FROM sorvik.invitations) AS links,
        (SELECT count(*) FROM sorvik.sessions WHERE created_at < now() - interval '30 days') AS late`,
    );
    expect(rows[0]).toEqual({ links: 0, late: 0 });
    expect(await whoIs(here)).toBeDefined();
  });

  it('is of no use to pages elsewhere', async () => {
    const change = (headers: Record<string, string>) =>
      ask('PATCH', '/api/me', { name: 'Olga' }, { cookie, ...headers });
    expect((await change({})).status).toBe(204);
    for (const origin of ['https://elsewhere.example', 'null', 'http://boards.example.org:81', ''])
      expect((await change({ origin })).status, origin).toBe(403);
    for (const type of ['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data'])
      expect((await change({ origin: 'https://elsewhere.example', 'content-type': type })).status).toBe(403);
    expect((await ask('GET', '/api/me', undefined, { host: 'elsewhere.example', cookie })).status).toBe(403);
  });

  it('all others end when the password changes', async () => {
    const here = cookieOf((await signIn(password)).headers);
    const there = cookieOf((await signIn(password)).headers);
    const change = (now: string, to: string) =>
      ask('PUT', '/api/me/password', { now, password: to }, { cookie: here });
    expect((await change('something else', 'nine grey seals here')).body.errors[0].pointer).toBe('/now');
    expect((await change(password, 'password123')).body.errors[0].pointer).toBe('/password');
    expect((await change(password, 'nine grey seals here')).status).toBe(204);
    expect(await whoIs(here)).toBeDefined();
    expect(await whoIs(there)).toBeUndefined();
    expect((await signIn(password)).status).toBe(401);
    expect(
      (await ask('PUT', '/api/me/password', { now: 'nine grey seals here', password }, { cookie: here }))
        .status,
    ).toBe(204);
    cookie = here;
  });
});

describe('whoever guesses', () => {
  it('hears the same of people who are here and of those who are not', async () => {
    const [known, unknown] = [
      await signIn('not this one'),
      await signIn('not this one', 'nobody@example.org'),
    ];
    expect(known.status).toBe(401);
    expect({ ...known.body }).toEqual({ ...unknown.body });
    await signIn(password);
  });

  it('is stopped after a while, from where they are', async () => {
    const statuses: number[] = [];
    for (let i = 0; i < 12; i++) statuses.push((await signIn('wrong', 'target@example.org')).status);
    expect(statuses.slice(0, 10)).toEqual(Array(10).fill(401));
    expect(statuses.slice(10)).toEqual([429, 429]);
    // Others come in as before.
    expect((await signIn(password)).status).toBe(200);
  });
});

describe('people', () => {
  const post = (path: string, body: object) => ask('POST', path, body, { cookie });
  it('come in by invitation, are switched off, and keep what is theirs', async () => {
    const { body } = await post('/api/people/invitations', {});
    const token = body.path.split('#')[1];
    const joined = await ask('POST', '/api/invitations/take', {
      token,
      email: 'edda@example.org',
      name: 'Edda',
      password,
    });
    const held = cookieOf(joined.headers);
    const { id } = joined.body.person;
    const document = { version: 1, title: 'Mine', levers: [], charts: [] };
    const made = await ask('POST', '/api/boards', { document }, { cookie: held });
    expect(made.status).toBe(201);
    expect((await ask('POST', '/api/people/invitations', {}, { cookie: held })).status).toBe(403);

    const off = await ask('PATCH', `/api/people/${id}`, { off: true }, { cookie });
    expect(off.body.off).toBe(true);
    expect(await whoIs(held)).toBeUndefined();
    expect((await signIn(password, 'edda@example.org')).status).toBe(401);
    expect((await ask('GET', `/api/boards/${made.body.id}`, undefined, { cookie })).status).toBe(200);

    await ask('PATCH', `/api/people/${id}`, { off: false }, { cookie });
    const reset = await post(`/api/people/${id}/reset`, {});
    const again = { token: reset.body.path.split('#')[1], password: 'a wholly other one' };
    expect((await ask('POST', '/api/invitations/look', { token: again.token })).body).toMatchObject({
      known: true,
      name: 'Edda',
    });
    expect((await ask('POST', '/api/invitations/take', again)).status).toBe(200);
    expect((await ask('POST', '/api/invitations/take', again)).status).toBe(404);
    expect((await signIn(password, 'edda@example.org')).status).toBe(401);
    expect((await signIn('a wholly other one', 'EDDA@example.org ')).status).toBe(200);
  });

  it('the last owner stays one', async () => {
    const { id } = await whoIs(cookie);
    for (const change of [{ owner: false }, { off: true }]) {
      const { status, body } = await ask('PATCH', `/api/people/${id}`, change, { cookie });
      expect([status, body.type]).toEqual([409, '/problems/last-owner']);
    }
    expect(await whoIs(cookie)).toMatchObject({ owner: true });
  });
});

it.each([
  ['short one', 'it needs 10'],
  ['password1234', 'guessed first'],
  ['Qwertyuiop', 'guessed first'],
  ['olga@example.org', 'little more than'],
  ['sorvik-2026', 'little more than'],
])('a password such as %s is refused', (given, why) => {
  expect(passwordProblem(given, { email, name: 'Olga' })).toContain(why);
});

it('a password of a few words is taken', () => {
  expect(passwordProblem(password, { email, name: 'Olga' })).toBeNull();
});
