import { plainChart, plainPick } from '@sorvik/core/testing/documents';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TeamApp, teamApp, teamPassword } from '../testing/team-app';
import type { TestApp } from '../testing/test-app';

let team: TeamApp;
let t: TestApp;
let as: TeamApp['as'];
let imported: TeamApp['imported'];
let board: string;
let dataset: string;

const password = teamPassword;
const give = (kind: string, id: string, who: string, role: string | null) =>
  team.give('Edda', kind, id, who, role);

beforeAll(async () => {
  team = await teamApp();
  ({ t, as, imported } = team);
  for (const name of ['Edda', 'Vito', 'Nils', 'Wim']) await team.invited(name);
  dataset = await imported('Edda', 'Landings');
  const document = { version: 1, title: 'Landings', levers: [], charts: [] };
  board = (await as('Edda', 'POST', '/api/boards', { document })).body.id;
  for (const [who, role] of [
    ['Wim', 'edit'],
    ['Vito', 'view'],
  ] as const) {
    expect((await give('board', board, who, role)).status).toBe(200);
    expect((await give('dataset', dataset, who, role)).status).toBe(200);
  }
});
afterAll(() => t.close());

describe('every route', () => {
  /** What each of them may: Olga owns the server, Edda both things, Wim edits, Vito sees, Nils has nothing. */
  const mayHave = { Olga: 3, Edda: 3, Wim: 2, Vito: 1, Nils: 0 } as const;
  const wanted = { shown: 1, view: 1, edit: 2, own: 3 } as const;
  const filled = (path: string) =>
    path
      .replace(/^\/api\/(deleted-)?boards\/:id/, (whole) => whole.replace(':id', board))
      .replace(/^\/api\/(deleted-)?datasets\/:id/, (whole) => whole.replace(':id', dataset))
      .replace(/:\w+/g, 'none');

  it('lets nobody in who is not signed in, but for what says so', async () => {
    for (const { method, path, needs } of t.routes.specs) {
      const { status } = await as(
        null,
        method.toUpperCase(),
        filled(path),
        method === 'get' ? undefined : {},
      );
      if (needs === 'nothing') continue;
      expect(status, `${method} ${path}`).toBe(401);
    }
    const open = t.routes.specs
      .filter(({ needs }) => needs === 'nothing')
      .map(({ method, path }) => `${method} ${path}`);
    expect(open.sort()).toEqual([
      'get /api/me',
      'get /healthz',
      'get /metrics',
      'get /readyz',
      'post /api/datasets/:id/rows',
      'post /api/invitations/look',
      'post /api/invitations/take',
      'post /api/links/follow',
      'post /api/sign-in',
      'post /api/sign-in/forgotten',
      'post /api/sign-in/provider',
      'post /api/sign-in/provider/back',
      'post /api/sign-out',
    ]);
  });

  it('lets in whoever may, and nobody else', async () => {
    for (const { method, path, needs } of t.routes.specs) {
      // What changes things for good is not tried as somebody who may.
      const harmless = method === 'get' || needs === 'owner';
      if (typeof needs === 'string' && needs !== 'owner') continue;
      for (const [who, rank] of Object.entries(mayHave)) {
        const may = needs === 'owner' ? who === 'Olga' : rank >= wanted[Object.values(needs)[0] as 'view'];
        if (may && !harmless) continue;
        const { status, body } = await as(
          who,
          method.toUpperCase(),
          filled(path),
          method === 'get' ? undefined : {},
        );
        const refused =
          status === 401 ||
          status === 403 ||
          (status === 404 && body.type === '/problems/not-found' && rank === 0);
        expect(refused, `${who}: ${method} ${path} is ${status}`).toBe(!may);
      }
    }
  });

  it('tells whoever may not see something that there is no such thing', async () => {
    expect((await as('Nils', 'GET', `/api/boards/${board}/shown`)).status).toBe(404);
    expect((await as('Nils', 'GET', `/api/datasets/${dataset}`)).body.detail).toBe(
      (await as('Nils', 'GET', '/api/datasets/no-such')).body.detail.replaceAll('no-such', dataset),
    );
  });

  it('lists only what somebody may see', async () => {
    const seen = async (who: string, path: string) =>
      (await as(who, 'GET', path)).body.map(({ id }: { id: string }) => id);
    for (const path of ['/api/boards', '/api/datasets']) {
      expect(await seen('Nils', path)).toEqual([]);
      expect(await seen('Vito', path)).toHaveLength(1);
      expect(await seen('Olga', path)).toHaveLength(1);
    }
    const { body } = await as('Vito', 'GET', '/api/boards');
    expect(body[0].viewed).toBe(true);
  });

  it('shows a viewer what is published, and not what is being worked at', async () => {
    await as('Edda', 'POST', `/api/boards/${board}/publish`, { revision: 1 });
    const patch = [{ op: 'replace', path: '/title', value: 'Secret plans' }];
    const saved = await as('Wim', 'PATCH', `/api/boards/${board}`, patch, { 'if-match': '"1"' });
    expect(saved.status).toBe(200);
    expect((await as('Vito', 'GET', `/api/boards/${board}/shown`)).body.document.title).toBe('Landings');
    expect((await as('Vito', 'GET', '/api/boards')).body[0].document.title).toBe('Landings');
    expect((await as('Wim', 'GET', '/api/boards')).body[0].document.title).toBe('Secret plans');
  });
});

describe('whoever sees a board and not its dataset', () => {
  let made: string;
  let figures: string;
  const tons = encodeURIComponent('sum.tons');
  const cube = (who: string, query: string) =>
    as(who, 'GET', `/api/datasets/${dataset}/cube?${figures}&${query}`);

  beforeAll(async () => {
    const { version } = (await as('Edda', 'GET', `/api/datasets/${dataset}`)).body;
    figures = `version=${version}`;
    const chart = plainChart(dataset, {
      by: { field: 'quay' },
      measure: { aggregate: 'sum', field: 'tons' },
    });
    const document = {
      version: 1,
      title: 'Tons',
      levers: [plainPick(dataset, 'quay', 'quays', 'Quays')],
      charts: [chart],
    };
    made = (await as('Edda', 'POST', '/api/boards', { document })).body.id;
    expect((await give('board', made, 'Nils', 'view')).status).toBe(200);
  });

  it('sees nothing of it until somebody publishes the board who may', async () => {
    expect((await as('Nils', 'GET', `/api/datasets/${dataset}`)).status).toBe(404);
    expect((await cube('Nils', `key=quay&aggregate=${tons}`)).status).toBe(404);
    expect((await as('Edda', 'POST', `/api/boards/${made}/publish`, { revision: 1 })).status).toBe(200);
    expect((await cube('Nils', `key=quay&aggregate=${tons}`)).status).toBe(200);
  });

  it('reaches what the board asks for, and nothing else', async () => {
    const refused = async (query: string) => (await cube('Nils', query)).status;
    expect(await refused('key=quay&aggregate=count')).toBe(200);
    expect(await refused(`key=tons&aggregate=${tons}`)).toBe(403);
    expect(await refused('key=quay&aggregate=max.tons')).toBe(403);
    expect(
      await refused(`aggregate=${tons}&keep=${encodeURIComponent('{"field":"tons","ranges":[[4,4]]}')}`),
    ).toBe(403);
    for (const path of ['rows', 'rows.csv', 'versions', 'rejects', 'tokens', 'fields/tons/shape'])
      expect((await as('Nils', 'GET', `/api/datasets/${dataset}/${path}`)).status, path).toBe(404);
    const values = (field: string) =>
      as('Nils', 'GET', `/api/datasets/${dataset}/fields/${field}/values?offset=0&limit=10`);
    expect((await values('quay')).body.total).toBe(2);
    expect((await values('tons')).status).toBe(403);
  });

  it('is told of the fields that the board names', async () => {
    const { body } = await as('Nils', 'GET', `/api/datasets/${dataset}`);
    expect(body.fields.map(({ key }: { key: string }) => key)).toEqual(['quay', 'tons']);
    expect(body.source).toEqual({ file: '', notes: [] });
    expect(body).not.toHaveProperty('copy');
    expect((await as('Nils', 'GET', '/api/datasets')).body.map(({ id }: { id: string }) => id)).not.toContain(
      dataset,
    );
  });

  it('gains nothing by boards of their own', async () => {
    const chart = plainChart(dataset, { by: { field: 'tons' }, measure: { aggregate: 'count' } });
    const own = await as('Nils', 'POST', '/api/boards', {
      document: { version: 1, title: 'Mine', levers: [], charts: [chart] },
    });
    expect((await as('Nils', 'POST', `/api/boards/${own.body.id}/publish`, { revision: 1 })).status).toBe(
      200,
    );
    expect((await cube('Nils', 'key=tons&aggregate=count')).status).toBe(403);
  });

  it('sees nothing any more once the board is withdrawn, or whoever published it may not see the data', async () => {
    const sees = async () => (await cube('Nils', `key=quay&aggregate=${tons}`)).status;
    await give('board', made, 'Nils', null);
    expect(await sees()).toBe(404);
    await give('board', made, 'Nils', 'view');
    await give('board', made, 'Wim', 'edit');
    await give('dataset', dataset, 'Wim', null);
    expect((await as('Wim', 'POST', `/api/boards/${made}/publish`, { revision: 1 })).status).toBe(200);
    expect(await sees()).toBe(404);
    await give('dataset', dataset, 'Wim', 'edit');
    expect(await sees()).toBe(200);
  });
});

describe('rights', () => {
  it('are given to everybody, and taken away', async () => {
    const made = (await as('Edda', 'POST', `/api/boards/${board}/duplicate`)).body.id;
    const sees = async () => (await as('Nils', 'GET', `/api/boards/${made}/shown`)).status;
    expect(await sees()).toBe(404);
    expect((await give('board', made, 'everybody', 'view')).status).toBe(200);
    expect(await sees()).toBe(200);
    expect((await give('board', made, 'everybody', 'own')).status).toBe(422);
    expect((await give('board', made, 'nobody at all', 'view')).status).toBe(422);
    expect((await give('board', made, 'everybody', null)).status).toBe(200);
    expect(await sees()).toBe(404);
  });

  it('hold for rows that come in by way of another dataset', async () => {
    const own = await imported('Nils', 'Own');
    expect(
      (
        await as('Nils', 'POST', `/api/datasets/${own}/lookups/preview`, {
          dataset,
          on: 'quay',
          from: 'quay',
        })
      ).status,
    ).toBe(404);
    expect(
      (
        await as('Nils', 'POST', `/api/datasets/${own}/refreshes/address`, {
          address: `dataset:${dataset}`,
          mode: 'append',
        })
      ).status,
    ).toBe(404);
  });

  it("hold for what a board of one's own would tell of a dataset", async () => {
    const chart = plainChart(dataset, {
      by: { field: 'quay' },
      measure: { aggregate: 'sum', field: 'tons' },
    });
    const document = { version: 1, title: 'Spying', levers: [], charts: [chart] };
    const made = (await as('Nils', 'POST', '/api/boards', { document })).body.id;
    expect((await as('Nils', 'GET', `/api/boards/${made}/file`)).status).toBe(404);
    expect((await as('Nils', 'GET', `/api/boards/${made}/file?data=true`)).status).toBe(404);
    expect((await as('Nils', 'GET', `/api/boards/${made}/versions`)).status).toBe(200);
    // And whoever owns the dataset is not told of a board that they may not see.
    const titles = (await as('Edda', 'GET', `/api/datasets/${dataset}`)).body.boards;
    expect(JSON.stringify(titles)).not.toContain('Spying');
    expect(JSON.stringify((await as('Olga', 'GET', `/api/datasets/${dataset}`)).body.boards)).toContain(
      'Spying',
    );
  });

  it('hold for imports that others have begun', async () => {
    const sent = await as('Edda', 'POST', '/api/imports?name=Mine.csv', 'a,b\n1,2\n', {
      'content-type': 'text/csv',
    });
    expect((await as('Wim', 'GET', `/api/imports/${sent.body.id}`)).status).toBe(404);
    expect((await as('Edda', 'GET', `/api/imports/${sent.body.id}`)).status).toBe(200);
  });

  it('and what was done with them can be read by owners, and not be changed', async () => {
    expect((await as('Edda', 'GET', '/api/audit')).status).toBe(403);
    const { body } = await as('Olga', 'GET', '/api/audit?text=board');
    const changed = body.find(({ action }: { action: string }) => action === 'rights-changed');
    expect(changed).toMatchObject({ name: 'Edda', detail: { of: 'everybody', role: null } });
    expect(body.some(({ action }: { action: string }) => action === 'board-published')).toBe(true);
    const file = await as('Olga', 'GET', '/api/audit.ndjson');
    expect(file.body.trim().split('\n').length).toBeGreaterThan(8);
    expect(file.body).not.toContain(password);
    await expect(t.database.pool.query('DELETE FROM sorvik.audit')).rejects.toThrow('stays');
    await expect(t.database.pool.query("UPDATE sorvik.audit SET name = 'x'")).rejects.toThrow('stays');
  });
});
