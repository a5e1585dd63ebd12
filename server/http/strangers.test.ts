import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TeamApp, teamAddress, teamApp } from '../testing/team-app';
import { testApp } from '../testing/test-app';
import { addressList, clientAddress } from './client-address';

let team: TeamApp;
beforeAll(async () => {
  team = await teamApp();
  await team.invited('Edda');
});
afterAll(() => team.t.close());

const ask = (path: string, headers: Record<string, string>, method = 'GET') =>
  team.t.app.request(path, { method, headers });

describe('a host', () => {
  it.each([
    'elsewhere.example',
    'boards.example.org.evil.example',
    'evil.example:443',
    '127.0.0.1',
    '',
    'boards.example.org@evil',
  ])('that is not the configured one is refused: "%s"', async (host) => {
    const { status } = await ask('/api/me', { host });
    expect(status).toBe(403);
  });

  it('is not what a header says that anybody can send', async () => {
    for (const name of [
      'x-forwarded-host',
      'x-host',
      'forwarded',
      'x-original-url',
      'x-rewrite-url',
      'x-forwarded-proto',
    ]) {
      const answer = await ask('/api/me', { host: teamAddress.host, [name]: 'evil.example' });
      expect([name, answer.status]).toEqual([name, 200]);
      expect(JSON.stringify([...answer.headers])).not.toContain('evil');
      expect((await ask('/api/me', { host: 'evil.example', [name]: teamAddress.host })).status).toBe(403);
    }
  });

  it('leads nobody elsewhere', async () => {
    for (const path of [
      '//evil.example',
      '/\\evil.example',
      '/%2f%2fevil.example',
      '/show/..%2f..%2fevil',
      '/link?to=//evil.example',
    ]) {
      const answer = await ask(path, { host: teamAddress.host });
      const to = answer.headers.get('location');
      expect(to === null || to === '/icon.svg', `${path} leads to ${to}`).toBe(true);
    }
  });
});

describe('where a request comes from', () => {
  const from = (trusted: string[], socket: string, forwarded?: string) =>
    clientAddress(addressList(trusted))({
      env: { incoming: { socket: { remoteAddress: socket } } },
      req: { header: (name: string) => (name === 'x-forwarded-for' ? forwarded : undefined) },
    } as never);
  it.each([
    // What whoever asks says of themselves counts for nothing.
    [[], '198.51.100.7', '203.0.113.9', '198.51.100.7'],
    [['10.0.0.2'], '198.51.100.7', '203.0.113.9', '198.51.100.7'],
    [['10.0.0.2'], '10.0.0.2', '203.0.113.9', '203.0.113.9'],
    // Only the last one was written by the proxy.
    [['10.0.0.2'], '10.0.0.2', '192.0.2.1, 203.0.113.9', '203.0.113.9'],
    [['10.0.0.0/8'], '10.0.0.2', '203.0.113.9, 10.1.2.3', '203.0.113.9'],
    [['10.0.0.2'], '::ffff:10.0.0.2', '203.0.113.9', '203.0.113.9'],
    [['10.0.0.2'], '10.0.0.2', 'nonsense', '10.0.0.2'],
    [['10.0.0.2'], '10.0.0.2', undefined, '10.0.0.2'],
    [['fd00::/8'], 'fd00::1', '2001:db8::7', '2001:db8::7'],
  ])('trusting %o: from %s, forwarded %s', (trusted, socket, forwarded, found) => {
    expect(from(trusted, socket, forwarded)).toBe(found);
  });
});

describe('what changes something', () => {
  it.each([
    'application/json',
    'text/plain',
    'application/x-www-form-urlencoded',
    'multipart/form-data; boundary=x',
  ])('is refused of a page elsewhere, whatever it says it sends: %s', async (type) => {
    const { body } = await team.as('Edda', 'POST', '/api/boards', {
      document: { version: 1, title: 'Mine', levers: [], charts: [] },
    });
    for (const origin of [
      'https://evil.example',
      'null',
      'https://boards.example.org.evil.example',
      'http://boards.example.org:8080',
    ])
      for (const method of ['POST', 'PUT', 'PATCH', 'DELETE']) {
        const answer = await team.t.app.request(`/api/boards/${body.id}`, {
          method,
          headers: { host: teamAddress.host, origin, cookie: team.cookies.Edda!, 'content-type': type },
          body: '{}',
        });
        expect([method, origin, answer.status]).toEqual([method, origin, 403]);
      }
    expect((await team.as('Edda', 'GET', `/api/boards/${body.id}`)).status).toBe(200);
  });
});

describe('answers', () => {
  it('are kept by no cache that others share, and tell of nobody', async () => {
    const board = (
      await team.as('Edda', 'POST', '/api/boards', {
        document: { version: 1, title: 'Mine', levers: [], charts: [] },
      })
    ).body.id;
    for (const path of ['/api/me', '/api/boards', '/api/datasets', `/api/boards/${board}`, '/api/people']) {
      const { headers } = await team.as('Edda', 'GET', path);
      expect(headers.get('cache-control'), path).toMatch(/no-store|^private/);
      expect(headers.get('x-powered-by')).toBeNull();
      expect(headers.get('server')).toBeNull();
    }
  });

  it('keep pages from being framed, guessed at or sent in the clear', async () => {
    const { headers } = await team.as('Edda', 'GET', '/api/me');
    expect(headers.get('content-security-policy')).toContain("frame-ancestors 'none'");
    expect(headers.get('content-security-policy')).not.toContain("script-src 'unsafe");
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('strict-transport-security')).toContain('max-age=31536000; includeSubDomains');
    expect(headers.get('referrer-policy')).toBe('no-referrer');
    expect(headers.get('access-control-allow-origin')).toBeNull();
  });

  it('of errors tell nothing of rows, statements or paths', async () => {
    const t = await testApp();
    for (const path of [
      "/api/boards/'; DROP TABLE x",
      '/api/datasets/%00',
      '/api/imports/..%2f..%2fetc%2fpasswd',
    ]) {
      const text = await (await t.request(path)).text();
      expect(text).not.toMatch(/SELECT|node_modules|\/work|at Object|stack/);
    }
    await t.close();
  });
});
