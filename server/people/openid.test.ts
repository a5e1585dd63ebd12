import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { identityProvider, signInAt, testClient } from '../testing/identity-provider';
import { type TeamApp, teamAddress, teamApp } from '../testing/team-app';

const back = new URL('/signed-in', teamAddress).href;
let provider: Awaited<ReturnType<typeof identityProvider>>;
let team: TeamApp;
let as: TeamApp['as'];

beforeAll(async () => {
  provider = await identityProvider(back);
  team = await teamApp({
    openId: {
      issuer: provider.issuer,
      client: testClient.id,
      secret: testClient.secret,
      groups: 'groups',
      name: 'Harbour id',
    },
  });
  ({ as } = team);
});
afterAll(async () => {
  await team.t.close();
  await provider.close();
});

/** Sets out from a browser. */
async function setOut() {
  const { status, body, headers } = await as(null, 'POST', '/api/sign-in/provider');
  expect(status).toBe(200);
  return { address: body.address as string, cookie: team.cookieOf(headers) };
}
const comeBack = (search: string, cookie: string | null) =>
  as(null, 'POST', '/api/sign-in/provider/back', { search }, cookie ? { cookie } : {});
async function signIn(who: string) {
  provider.account.who = who;
  const { address, cookie } = await setOut();
  return comeBack(await signInAt(address, back), cookie);
}
const groupsOf = async (id: string) =>
  (await as('Olga', 'GET', '/api/groups')).body
    .filter(({ people }: { people: string[] }) => people.includes(id))
    .map(({ name }: { name: string }) => name);

describe('signing in at a provider', () => {
  it('lets in whoever it vouches for, with their groups', async () => {
    provider.accounts.ida = {
      email: 'ida@example.org',
      email_verified: true,
      name: 'Ida Holm',
      groups: ['Quel', 'Harl'],
    };
    const { status, body, headers } = await signIn('ida');
    expect([status, body.person]).toEqual([
      200,
      expect.objectContaining({ email: 'ida@example.org', name: 'Ida Holm', owner: false }),
    ]);
    const session = headers.getSetCookie().find((each) => each.startsWith('__Host-sorvik='))!;
    expect(session).toMatch(/HttpOnly; Secure; SameSite=Lax$/);
    const me = await as(null, 'GET', '/api/me', undefined, { cookie: session.split(';')[0]! });
    expect(me.body).toMatchObject({ team: true, provider: 'Harbour id', person: { name: 'Ida Holm' } });
    expect(await groupsOf(body.person.id)).toEqual(['Harl', 'Quel']);
  });

  it('knows them again by who they are there, and follows their groups', async () => {
    const first = (await signIn('ida')).body.person.id;
    const mine = (await as('Olga', 'POST', '/api/groups', { name: 'By hand' })).body;
    await as('Olga', 'PUT', `/api/groups/${mine.id}/people`, { people: [first] });
    provider.accounts.ida = {
      ...provider.accounts.ida!,
      email: 'ida.holm@example.org',
      groups: ['Ostrin', 'By hand'],
    };
    const { body } = await signIn('ida');
    expect(body.person).toMatchObject({ id: first, email: 'ida@example.org' });
    // A group that owners made stays theirs.
    expect(await groupsOf(first)).toEqual(['By hand', 'Ostrin']);
    provider.accounts.ida = { ...provider.accounts.ida, groups: [] };
    await signIn('ida');
    expect(await groupsOf(first)).toEqual(['By hand']);
    expect((await as('Olga', 'GET', '/api/people')).body).toHaveLength(2);
  });

  it('knows who has a password here by an address that it has made sure of, and by no other', async () => {
    await team.invited('Vito');
    provider.accounts.vito = { email: 'Vito@example.org', email_verified: true, name: 'V. Halm' };
    expect((await signIn('vito')).body.person).toMatchObject({ id: team.ids.Vito, name: 'Vito' });
    provider.accounts.thief = { email: 'olga@example.org', email_verified: false, name: 'Olga' };
    const { status, body } = await signIn('thief');
    expect([status, body.detail]).toEqual([403, expect.stringContaining('not made sure')]);
  });

  it('does not let in whoever is switched off', async () => {
    await as('Olga', 'PATCH', `/api/people/${team.ids.Vito}`, { off: true });
    expect((await signIn('vito')).status).toBe(403);
  });
});

describe('coming back', () => {
  it('is for the browser that set out, once', async () => {
    provider.account.who = 'ida';
    const { address, cookie } = await setOut();
    const search = await signInAt(address, back);
    const other = await setOut();
    for (const held of [null, other.cookie, 'sorvik-set-out=bm9uZQ']) {
      const { status, body } = await comeBack(search, held);
      expect([status, body.type]).toEqual([401, '/problems/not-vouched']);
    }
    expect((await comeBack(search, cookie)).status).toBe(200);
    expect((await comeBack(search, cookie)).status).toBe(401);
  });

  it('with anything else is refused', async () => {
    const { cookie } = await setOut();
    for (const search of [
      '',
      '?code=x',
      '?code=x&state=y',
      '?error=access_denied&state=z',
      '?code=%00&state=..',
    ])
      expect((await comeBack(search, cookie)).status, search).toBe(401);
    const { body } = await as('Olga', 'GET', '/api/audit?action=sign-in-refused');
    expect(body[0]).toMatchObject({ person: null, detail: { by: 'Harbour id', why: 'provider' } });
  });

  it('asks for a code with PKCE, a state and a nonce, and leads back here alone', async () => {
    const { searchParams } = new URL((await setOut()).address);
    expect(Object.fromEntries(searchParams)).toMatchObject({
      redirect_uri: back,
      response_type: 'code',
      code_challenge_method: 'S256',
    });
    for (const name of ['state', 'nonce', 'code_challenge'])
      expect(searchParams.get(name)!.length).toBeGreaterThan(20);
  });
});

it('a provider that is away is told as that, and asked again', async () => {
  const gone = await identityProvider(back);
  await gone.close();
  const other = await teamApp({
    openId: { issuer: gone.issuer, client: 'x', secret: 'y', groups: 'groups', name: 'Harbour id' },
  });
  const { status, body } = await other.as(null, 'POST', '/api/sign-in/provider');
  expect([status, body.detail]).toEqual([502, expect.stringContaining('Harbour id does not answer')]);
  await other.t.close();
});

it('where there is none, nobody signs in there', async () => {
  const other = await teamApp();
  expect((await other.as(null, 'POST', '/api/sign-in/provider')).status).toBe(404);
  expect((await other.as(null, 'GET', '/api/me')).body).toEqual({ team: true });
  await other.t.close();
});
