import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TeamApp, teamAddress, teamApp } from '../testing/team-app';
import { type TestApp, testApp } from '../testing/test-app';

let alone: TestApp;
let team: TeamApp;
const token = 'a-token-for-whoever-watches';

beforeAll(async () => {
  alone = await testApp();
  team = await teamApp({ metricsToken: token });
});
afterAll(async () => {
  await alone.close();
  await team.t.close();
});

/** Asks as a request that came in over a socket from an address. */
const from = (address: string, path: string, headers: Record<string, string> = {}) =>
  team.t.app.request(
    path,
    { headers: { host: '127.0.0.1:4310', ...headers } },
    { incoming: { socket: { remoteAddress: address } } },
  );

it('a server is ready while its database answers and changes are heard of', async () => {
  const { status, body } = await alone.json('/readyz');
  expect([status, body]).toEqual([200, { ready: true, database: true, changes: true }]);
  alone.database.changes.listening = false;
  const deaf = await alone.json('/readyz');
  expect([deaf.status, deaf.body.ready]).toEqual([503, false]);
  expect((await alone.json('/healthz')).status).toBe(200);
  alone.database.changes.listening = true;
});

describe('metrics', () => {
  it('tell of requests, pools, imports, copies and the event loop', async () => {
    await alone.importCsv('a,b\n1,2\n', 'Some.csv');
    await alone.request('/api/datasets');
    await alone.request('/api/nowhere');
    const text = await (await alone.request('/metrics')).text();
    for (const line of [
      /^sorvik_request_seconds_count\{route="\/api\/imports",method="POST",status="201"\} 1$/m,
      /^sorvik_request_seconds_count\{route="other",method="GET",status="404"\} 1$/m,
      /^sorvik_pool_connections\{state="open"\} [1-9]/m,
      /^sorvik_imports\{state="done"\} 1$/m,
      /^sorvik_copies\{state="ready"\} 0$/m,
      /^nodejs_eventloop_lag_p99_seconds /m,
      /^process_resident_memory_bytes \d/m,
    ])
      expect(text).toMatch(line);
    // A name in an address is no name of a figure.
    expect(text).not.toContain('nowhere');
  });

  it('are for whoever is at the machine, or has the token', async () => {
    expect((await from('127.0.0.1', '/metrics')).status).toBe(200);
    expect((await from('198.51.100.7', '/metrics')).status).toBe(404);
    expect((await from('127.0.0.1', '/metrics', { 'x-forwarded-for': '198.51.100.7' })).status).toBe(404);
    expect((await from('127.0.0.1', '/metrics', { forwarded: 'for=198.51.100.7' })).status).toBe(404);
    // A proxy that says nothing of who asks still asks by the name that others know.
    expect((await from('127.0.0.1', '/metrics', { host: teamAddress.host })).status).toBe(404);
    expect((await from('127.0.0.1', '/metrics', { host: 'elsewhere.example' })).status).toBe(403);
    const with_ = (given: string) =>
      from('198.51.100.7', '/metrics', { host: teamAddress.host, authorization: `Bearer ${given}` });
    expect((await with_('another')).status).toBe(404);
    expect((await with_(token)).status).toBe(200);
    expect((await team.as('Olga', 'GET', '/metrics')).status).toBe(404);
  });
});
