import { demoBoards } from '@sorvik/demo/main';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
beforeAll(async () => {
  t = await testApp();
});
afterAll(() => t.close());

const document = demoBoards[1]!;
const create = async (title: string) =>
  (await t.send('POST', '/api/boards', { document: { ...document, title } })).body;
const rename = (id: string, revision: number, title: string) =>
  t.send('PATCH', `/api/boards/${id}`, [{ op: 'replace', path: '/title', value: title }], {
    'content-type': 'application/json-patch+json',
    'if-match': `"${revision}"`,
  });
const shownTitle = async (id: string) => (await t.json(`/api/boards/${id}/shown`)).body.document.title;
const titleOf = async (id: string) => (await t.json(`/api/boards/${id}`)).body.document.title;

describe('published', () => {
  it('is the draft until something is published, then that', async () => {
    const { id, published } = await create('Draft');
    expect(published).toBeNull();
    await rename(id, 1, 'Draft two');
    expect(await shownTitle(id)).toBe('Draft two');
    const made = await t.send('POST', `/api/boards/${id}/publish`, { revision: 2 });
    expect(made.body).toMatchObject({ published: 2, revision: 2 });
    expect(Date.parse(made.body.publishedAt)).toBeGreaterThan(Date.now() - 60_000);
    await rename(id, 2, 'Draft three');
    expect(await shownTitle(id)).toBe('Draft two');
    expect(await titleOf(id)).toBe('Draft three');
    // An earlier state can be the published one again.
    await t.send('POST', `/api/boards/${id}/publish`, { revision: 1 });
    expect(await shownTitle(id)).toBe('Draft');
    expect((await t.send('POST', `/api/boards/${id}/publish`, { revision: 99 })).status).toBe(404);
    expect((await t.send('POST', `/api/boards/${id}/publish`, {})).status).toBe(422);
  });
  it('is not carried over to a copy', async () => {
    const { id } = await create('Original');
    await t.send('POST', `/api/boards/${id}/publish`, { revision: 1 });
    const copy = (await t.send('POST', `/api/boards/${id}/duplicate`)).body;
    expect(copy.published).toBeNull();
  });
});

describe('versions', () => {
  it('are the last of each sitting, those with a name, the published and the first', async () => {
    const { id } = await create('v1');
    for (let n = 2; n <= 8; n++) await rename(id, n - 1, `v${n}`);
    // Revisions 1 to 4 were an hour ago.
    await t.database.pool.query(
      `UPDATE sorvik.board_versions SET saved_at = saved_at - interval '1 hour' WHERE board = $1 AND revision <= 4`,
      [id],
    );
    await t.send('PATCH', `/api/boards/${id}/versions/6`, { name: 'Before the meeting' });
    await t.send('POST', `/api/boards/${id}/publish`, { revision: 3 });
    const { body } = await t.json(`/api/boards/${id}/versions`);
    expect(
      body.map(({ revision, name, published, added, removed }: never) => [
        revision,
        name,
        published,
        added,
        removed,
      ]),
    ).toEqual([
      [8, null, false, ['Title: v8'], ['Title: v6']],
      [6, 'Before the meeting', false, ['Title: v6'], ['Title: v4']],
      [4, null, false, ['Title: v4'], ['Title: v3']],
      [3, null, true, ['Title: v3'], ['Title: v1']],
      [1, null, false, [], []],
    ]);
    await t.send('PATCH', `/api/boards/${id}/versions/6`, { name: ' ' });
    const after = (await t.json(`/api/boards/${id}/versions`)).body;
    expect(after.map(({ revision }: { revision: number }) => revision)).toEqual([8, 4, 3, 1]);
    expect((await t.send('PATCH', `/api/boards/${id}/versions/77`, { name: 'x' })).status).toBe(404);
    expect((await t.send('PATCH', `/api/boards/${id}/versions/1`, { name: 'x'.repeat(201) })).status).toBe(
      422,
    );
  });
});

describe('a copy to try something on', () => {
  it('folded back can be taken back: the board is what it was, and the copy is there again', async () => {
    const { id } = await create('Quays');
    const scratch = (await t.send('POST', `/api/boards/${id}/scratch`)).body;
    await rename(scratch.id, 1, 'Tried');
    const folded = (await t.send('POST', `/api/boards/${scratch.id}/fold`, {})).body;
    const back = await t.send('POST', `/api/boards/${id}/unfold`, {
      revision: folded.revision,
      scratch: scratch.id,
    });
    expect(back).toMatchObject({ status: 200, body: { id, document: { title: 'Quays' } } });
    expect((await t.json(`/api/boards/${scratch.id}`)).body.document.title).toBe('Tried');
    // What was changed since is not thrown away.
    const again = (await t.send('POST', `/api/boards/${scratch.id}/fold`, {})).body;
    await rename(id, again.revision, 'Later');
    const late = await t.send('POST', `/api/boards/${id}/unfold`, {
      revision: again.revision,
      scratch: scratch.id,
    });
    expect(late.status).toBe(412);
    expect((await t.json(`/api/boards/${id}`)).body.document.title).toBe('Later');
  });

  it('leaves the board alone until it is folded back', async () => {
    const { id } = await create('Careful');
    const scratch = (await t.send('POST', `/api/boards/${id}/scratch`)).body;
    expect(scratch).toMatchObject({ scratchOf: id, scratchFrom: 1 });
    await rename(scratch.id, 1, 'Careless');
    expect(await titleOf(id)).toBe('Careful');
    expect((await t.send('POST', `/api/boards/${scratch.id}/publish`, { revision: 1 })).status).toBe(409);
    expect((await t.send('POST', `/api/boards/${scratch.id}/scratch`)).status).toBe(409);
    const folded = await t.send('POST', `/api/boards/${scratch.id}/fold`, {});
    expect(folded.body).toMatchObject({ id, revision: 2, document: { title: 'Careless' } });
    expect((await t.json(`/api/boards/${scratch.id}`)).status).toBe(404);
    expect((await t.json(`/api/boards/${id}/versions/1`)).body.document.title).toBe('Careful');
  });
  it('asks before it takes the place of what was changed meanwhile', async () => {
    const { id } = await create('Both');
    const scratch = (await t.send('POST', `/api/boards/${id}/scratch`)).body;
    await rename(id, 1, 'Both, changed');
    const refused = await t.send('POST', `/api/boards/${scratch.id}/fold`, {});
    expect(refused.status).toBe(412);
    expect(refused.body.detail).toContain('"Both, changed" has been changed since this copy was made');
    const folded = await t.send('POST', `/api/boards/${scratch.id}/fold`, { anyway: true });
    expect(folded.body).toMatchObject({ id, revision: 3, document: { title: 'Both' } });
    expect((await t.json(`/api/boards/${id}/versions/2`)).body.document.title).toBe('Both, changed');
    expect((await t.send('POST', `/api/boards/${id}/fold`, {})).status).toBe(409);
  });
});
