import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TeamApp, teamApp } from '../testing/team-app';

let team: TeamApp;
let as: TeamApp['as'];
let dataset: string;
let board: string;
const tokens: Record<string, string> = {};
const made: Record<string, string> = {};

const by = (scope: string, method: string, path: string, body?: unknown, more = {}) =>
  as(null, method, path, body, { authorization: `Bearer ${tokens[scope]}`, ...more });
const push = (scope: string, to = dataset) =>
  by(scope, 'POST', `/api/datasets/${to}/rows`, '{"quay":"Ostrin","tons":1}\n', {
    'content-type': 'application/x-ndjson',
  });

beforeAll(async () => {
  team = await teamApp();
  ({ as } = team);
  for (const name of ['Edda', 'Vito']) await team.invited(name);
  dataset = await team.imported('Edda', 'Landings');
  const document = { version: 1, title: 'Landings', levers: [], charts: [] };
  board = (await as('Edda', 'POST', '/api/boards', { document })).body.id;
  for (const scope of ['read', 'push', 'edit']) {
    const { status, body } = await as('Edda', 'POST', '/api/me/tokens', { name: scope, scope, days: 30 });
    expect(status).toBe(201);
    tokens[scope] = body.token;
    made[scope] = body.id;
  }
});
afterAll(() => team.t.close());

describe('a program with a token', () => {
  it('reads what its person may see, and writes nothing, with one to read', async () => {
    expect((await by('read', 'GET', `/api/boards/${board}`)).status).toBe(200);
    expect((await by('read', 'GET', `/api/datasets/${dataset}/rows?offset=0&limit=1`)).status).toBe(200);
    expect((await by('read', 'DELETE', `/api/boards/${board}`)).status).toBe(403);
    expect((await by('read', 'POST', '/api/boards', { document: {} })).status).toBe(403);
    expect((await push('read')).status).toBe(401);
  });

  it('pushes rows, and does nothing else, with one to push', async () => {
    expect((await push('push')).status).toBe(200);
    expect((await by('push', 'GET', `/api/boards/${board}`)).status).toBe(403);
    expect((await by('push', 'GET', '/api/datasets')).status).toBe(403);
    const { body } = await as('Edda', 'GET', `/api/datasets/${dataset}/versions`);
    expect(JSON.stringify(body[0])).toContain('Edda');
  });

  it('changes boards and datasets with one to edit', async () => {
    const document = { version: 1, title: 'By a program', levers: [], charts: [] };
    const { status, body } = await by('edit', 'POST', '/api/boards', { document });
    expect(status).toBe(201);
    expect((await as('Edda', 'GET', `/api/boards/${body.id}`)).status).toBe(200);
    expect((await push('edit')).status).toBe(200);
  });

  it.each(['read', 'push', 'edit'])('never touches people, rights, links or tokens: %s', async (scope) => {
    for (const [method, path, body] of [
      ['GET', '/api/me/tokens'],
      ['POST', '/api/me/tokens', { name: 'more', scope: 'edit', days: 300 }],
      ['PUT', '/api/me/password', { now: 'x', password: 'y' }],
      ['GET', '/api/me/sessions'],
      ['GET', `/api/boards/${board}/rights`],
      ['PUT', `/api/boards/${board}/rights`, { grantee: 'everybody', role: 'edit' }],
      ['POST', `/api/boards/${board}/links`, { name: 'x', days: null }],
      ['DELETE', `/api/datasets/${dataset}`],
      ['PUT', `/api/datasets/${dataset}/rule`, { rule: null }],
      ['GET', '/api/audit'],
    ] as const)
      expect([path, (await by(scope, method, path, body)).status]).toEqual([path, 403]);
  });

  it('does no more than its person may', async () => {
    const own = await team.imported('Vito', 'Own');
    expect((await by('edit', 'GET', `/api/datasets/${own}`)).status).toBe(404);
    expect((await push('push', own)).status).toBe(404);
  });

  it('counts as its person where rows are for somebody', async () => {
    await as('Edda', 'PUT', `/api/datasets/${dataset}/rule`, { rule: "quay = 'Quel'" });
    await team.give('Edda', 'dataset', dataset, 'Vito', 'view');
    const { body } = await as('Vito', 'POST', '/api/me/tokens', { name: 'mine', scope: 'read', days: 1 });
    tokens.vito = body.token;
    expect((await by('vito', 'GET', `/api/datasets/${dataset}`)).body.rows).toBe(1);
  });

  it('is let in no more once it is withdrawn, has ended, or its person is switched off', async () => {
    expect((await as('Edda', 'DELETE', `/api/me/tokens/${made.push}`)).status).toBe(204);
    expect((await as('Vito', 'DELETE', `/api/me/tokens/${made.read}`)).status).toBe(404);
    expect((await push('push')).body.type).toBe('/problems/token-needed');
    await team.t.database.pool.query(
      "UPDATE sorvik.person_tokens SET ends_at = now() - interval '1 second' WHERE name = 'read'",
    );
    team.t.database.changes.tell();
    expect((await by('read', 'GET', '/api/boards')).status).toBe(401);
    await as('Olga', 'PATCH', `/api/people/${team.ids.Vito}`, { off: true });
    expect((await by('vito', 'GET', '/api/boards')).status).toBe(401);
    expect((await by('nonsense', 'GET', '/api/boards')).status).toBe(401);
  });

  it('and its token is kept as a hash alone', async () => {
    const { rows } = await team.t.database.pool.query('SELECT * FROM sorvik.person_tokens');
    expect(JSON.stringify(rows)).not.toContain(tokens.edit!.slice(4));
    expect(JSON.stringify((await as('Edda', 'GET', '/api/me/tokens')).body)).not.toContain(
      tokens.edit!.slice(4),
    );
    const file = await as('Olga', 'GET', '/api/audit.ndjson');
    expect(file.body).toContain('token-made');
    expect(file.body).not.toContain(tokens.edit!.slice(4));
  });
});
