import { readFile } from 'node:fs/promises';
import { demoBoards } from '@sorvik/demo/main';
import { Ajv2020 } from 'ajv/dist/2020';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';
import { publishedBoardSchema } from './board-schema';

let t: TestApp;
beforeAll(async () => {
  t = await testApp();
});
afterAll(() => t.close());

const document = demoBoards[1]!;
const create = async (title = 'Quays') =>
  (await t.send('POST', '/api/boards', { document: { ...document, title } })).body;
const patch = (id: string, revision: number | string, operations: unknown) =>
  t.send('PATCH', `/api/boards/${id}`, operations, {
    'content-type': 'application/json-patch+json',
    'if-match': `"${revision}"`,
  });

describe('saving', () => {
  it('keeps a board under an id made of its title', async () => {
    const first = await create('Åland?  Quays!');
    expect(first).toMatchObject({ id: 'aland-quays', revision: 1 });
    expect((await create('Åland?  Quays!')).id).toBe('aland-quays-2');
    const { body, headers } = await t.json('/api/boards/aland-quays');
    expect(body.document.charts).toEqual(document.charts);
    expect(headers.get('etag')).toBe('"1"');
  });

  it('changes it by patches, each a revision that can be read again', async () => {
    const { id } = await create();
    const saved = await patch(id, 1, [{ op: 'replace', path: '/title', value: 'Piers' }]);
    expect(saved).toMatchObject({ status: 200, body: { revision: 2 } });
    expect((await t.json(`/api/boards/${id}`)).body.document.title).toBe('Piers');
    const versions = (await t.json(`/api/boards/${id}/versions`)).body;
    expect(versions.map(({ title }: { title: string }) => title)).toEqual(['Piers', 'Quays']);
    expect(versions[0]).toMatchObject({
      added: ['Title: Piers'],
      removed: ['Title: Quays'],
      published: false,
    });
    expect((await t.json(`/api/boards/${id}/versions/1`)).body.document.title).toBe('Quays');
    expect((await t.json(`/api/boards/${id}/versions/9`)).status).toBe(404);
  });

  it('refuses the later of two changes to one revision, and loses neither side', async () => {
    const { id } = await create();
    const results = await Promise.all(
      ['one', 'two', 'three'].map((title) => patch(id, 1, [{ op: 'replace', path: '/title', value: title }])),
    );
    expect(results.map(({ status }) => status).sort()).toEqual([200, 412, 412]);
    expect(results.find(({ status }) => status === 412)!.body).toMatchObject({
      title: 'Edit conflict',
      revision: 2,
    });
  });

  it('is done once when it is sent twice with one key, as where the answer to the first was lost', async () => {
    const { id } = await create();
    const save = (key: string, revision: number, title: string) =>
      t.send('PATCH', `/api/boards/${id}`, [{ op: 'replace', path: '/title', value: title }], {
        'content-type': 'application/json-patch+json',
        'if-match': `"${revision}"`,
        'idempotency-key': key,
      });
    const [first, repeated] = [
      await save('save-89ab-0000', 1, 'Twice'),
      await save('save-89ab-0000', 1, 'Twice'),
    ];
    expect([first.status, repeated.status]).toEqual([200, 200]);
    expect([first.body.revision, repeated.body.revision]).toEqual([2, 2]);
    expect((await t.json(`/api/boards/${id}/versions`)).body).toHaveLength(2);
    // Another save to that revision is a conflict still.
    expect((await save('save-89ab-0001', 1, 'Other')).status).toBe(412);
    expect((await save('save-89ab-0002', 2, 'Later')).body.revision).toBe(3);
    expect(await save('x', 3, 'Odd')).toMatchObject({
      status: 400,
      body: { detail: expect.stringContaining('8 to 64 letters') },
    });
  });

  it('needs If-Match', async () => {
    const { id } = await create();
    const without = await t.send('PATCH', `/api/boards/${id}`, [], {
      'content-type': 'application/json-patch+json',
    });
    expect(without.status).toBe(428);
    expect((await patch(id, 'x', [])).status).toBe(400);
  });

  it.each([
    ['no list', { op: 'add' }, ''],
    ['an unknown operation', [{ op: 'push', path: '/title' }], '/0'],
    ['a path that is not there', [{ op: 'replace', path: '/charts/9/form', value: 'bars' }], '/0'],
    ['a way to the prototype', [{ op: 'add', path: '/__proto__/polluted', value: true }], '/0'],
    ['an invalid result', [{ op: 'replace', path: '/charts/0/form', value: 'pyramid' }], '/charts/0/form'],
    ['a failing test', [{ op: 'test', path: '/title', value: 'other' }], '/0'],
  ])('points at %s', async (_, operations, pointer) => {
    const { id } = await create();
    const { status, body } = await patch(id, 1, operations);
    expect(status).toBe(422);
    expect(body.errors[0].pointer).toBe(pointer);
    expect((await t.json(`/api/boards/${id}`)).body.revision).toBe(1);
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
  });
});

it('deletes, restores and duplicates', async () => {
  const { id } = await create('Gone');
  const copy = await t.send('POST', `/api/boards/${id}/duplicate`);
  expect(copy.body.document.title).toBe('Gone (copy)');
  expect((await t.send('DELETE', `/api/boards/${id}`)).status).toBe(204);
  expect((await t.json(`/api/boards/${id}`)).status).toBe(404);
  expect((await t.json('/api/deleted-boards')).body[0]).toMatchObject({ id, title: 'Gone' });
  expect((await t.json('/api/boards')).body.map((b: { id: string }) => b.id)).not.toContain(id);
  expect((await t.send('POST', `/api/boards/${id}/restore`)).status).toBe(200);
  expect((await t.json(`/api/boards/${id}`)).body.document.title).toBe('Gone');
  expect((await t.send('POST', '/api/boards/nowhere/restore')).status).toBe(404);
});

describe('the published schema', () => {
  const validate = new Ajv2020({ strict: false }).compile(publishedBoardSchema());

  it('is the one in docs/', async () => {
    const file = await readFile(new URL('../../docs/board.schema.json', import.meta.url), 'utf8');
    expect(JSON.parse(file)).toEqual(JSON.parse(JSON.stringify(publishedBoardSchema())));
  });

  it('takes every demo board', () => {
    for (const board of demoBoards) expect(validate(board), JSON.stringify(validate.errors)).toBe(true);
  });

  it.each([
    ['a misspelt property', { ...document, chart: [] }],
    ['an unknown form', { ...document, charts: [{ ...document.charts[0], form: 'pyramid' }] }],
    ['an unknown kind of lever', { ...document, levers: [{ ...document.levers[0], kind: 'crank' }] }],
    ['a lever without a name', { ...document, levers: [{ ...document.levers[0], name: undefined }] }],
  ])('refuses %s, as the server does', async (_, board) => {
    const sent = JSON.parse(JSON.stringify(board));
    expect(validate(sent)).toBe(false);
    expect((await t.send('POST', '/api/boards', { document: sent })).status).toBe(422);
  });
});
