import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
beforeAll(async () => {
  t = await testApp({ copies: true, schedules: true });
});
afterAll(() => t.close());

const vessels = 'Name,Class,Places\nTern,small,80\nHeron,large,310\nO’Gull 🚢,small,95\n';
const sailings = 'Vessel,People\nTern,10\nHeron,20\nAuk,30\n,40\nTern,50\nO’Gull 🚢,60\n';
const made = async (content: string, name: string) => (await t.importCsv(content, name)).dataset!;
async function both() {
  return { own: await made(sailings, 'Sailings.csv'), other: await made(vessels, 'Vessels.csv') };
}
const keys = (dataset: string) => ({ dataset, on: 'name', from: 'vessel' });
const add = (own: string, other: string, fields = [{ field: 'class', name: 'Class' }]) =>
  t.send('POST', `/api/datasets/${own}/lookups`, { ...keys(other), fields });
const preview = (own: string, body: object) => t.send('POST', `/api/datasets/${own}/lookups/preview`, body);
const view = async (id: string) => (await t.json(`/api/datasets/${id}`)).body;
const column = async (id: string, key: string) => {
  const place = (await view(id)).fields.findIndex((field: { key: string }) => field.key === key);
  return (await t.json(`/api/datasets/${id}/rows`)).body.rows.map((row: unknown[]) => row[place]);
};
const classes = ['small', 'large', null, null, 'small', 'small'];

describe('what looking up would find', () => {
  it('counts rows without a match, without a value, and values that stand twice', async () => {
    const { own, other } = await both();
    expect((await preview(own, keys(other))).body).toEqual({
      rows: { matched: 4, unmatched: 1, empty: 1 },
      unmatched: { count: 1, examples: ['Auk'] },
      doubled: { count: 0, examples: [] },
    });
    const twice = await made(`${vessels}Tern,large,1\nTern,large,2\nHeron,large,3\n`, 'Twice.csv');
    expect((await preview(own, keys(twice))).body.doubled).toEqual({ count: 2, examples: ['Tern', 'Heron'] });
    const refused = await add(own, twice);
    expect(refused.status).toBe(409);
    expect(refused.body.detail).toContain(
      '2 values of "Name" stand in more than one row (Tern, Heron). Look up by a field',
    );
    expect((await view(own)).fields).toHaveLength(2);
  });

  it('refuses what cannot be compared, is not there, or goes round, and names the field', async () => {
    const { own, other } = await both();
    const pointers = async (body: object) => {
      const { status, body: problem } = await preview(own, body);
      expect(status).toBe(422);
      return problem.errors.map(({ pointer }: { pointer: string }) => pointer);
    };
    expect(await pointers({ ...keys(other), from: 'people' })).toEqual(['/on']);
    expect(await pointers({ ...keys(other), from: 'gone' })).toEqual(['/from']);
    expect(await pointers({ ...keys(other), on: 'gone' })).toEqual(['/on']);
    expect(await pointers(keys(own))).toEqual(['/dataset']);
    expect((await preview(own, keys('none'))).status).toBe(404);
    expect((await add(own, other)).status).toBe(201);
    const back = { dataset: own, on: 'vessel', from: 'name' };
    const round = await preview(other, back);
    expect(round.body.errors[0].message).toContain('looks up fields in "Vessels" itself');
    expect((await add(own, other)).body.errors[0].pointer).toBe('/fields/0/name');
    expect((await add(own, other, [{ field: 'gone', name: 'x' }])).body.errors[0].pointer).toBe(
      '/fields/0/field',
    );
  });
});

describe('a field that is looked up', () => {
  it('has the value of the row with the same key, keeps the rows in their order, and can be computed with', async () => {
    const { own, other } = await both();
    const { status, body } = await add(own, other, [
      { field: 'class', name: 'Class' },
      { field: 'places', name: 'Places' },
    ]);
    expect(status).toBe(201);
    expect(body.fields.at(-1)).toMatchObject({
      key: 'places',
      type: 'integer',
      lookup: { ...keys(other), field: 'places' },
      profile: { count: 4, missing: 2, max: 310 },
    });
    expect(await column(own, 'class')).toEqual(classes);
    expect(await column(own, 'people')).toEqual([10, 20, 30, 40, 50, 60]);
    await t.send('POST', `/api/datasets/${own}/fields`, { name: 'Left', formula: 'places - people' });
    expect(await column(own, 'left')).toEqual([70, 290, null, null, 30, 35]);
    expect((await t.json(`/api/datasets/${own}/fields/places/uses`)).body.fields).toEqual(['Left']);
    expect((await t.send('DELETE', `/api/datasets/${own}/fields/places`)).status).toBe(409);
    expect((await t.send('DELETE', `/api/datasets/${own}/fields/class`)).status).toBe(200);
  });

  it('is looked up for rows that are appended, replaced and pushed', async () => {
    const { own, other } = await both();
    await add(own, other);
    await t.refresh(own, 'Vessel,People\nHeron,1\nAuk,2\n', 'mode=append');
    expect((await column(own, 'class')).slice(-2)).toEqual(['large', null]);
    const { body: token } = await t.send('POST', `/api/datasets/${own}/tokens`, { name: 'quay' });
    const pushed = await t.json(`/api/datasets/${own}/rows`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token.token}`, 'content-type': 'application/x-ndjson' },
      body: '{"vessel":"Tern","people":3}\n',
    });
    expect(pushed.status).toBe(200);
    expect((await column(own, 'class')).at(-1)).toBe('small');
    await t.refresh(own, 'Vessel,People\nHeron,1\n');
    expect(await column(own, 'class')).toEqual(['large']);
    const { status } = await t.send('POST', `/api/datasets/${own}/versions/back`, { version: 1 });
    expect(status).toBe(200);
    expect(await column(own, 'class')).toEqual(classes);
  });

  it('follows the dataset that it is looked up in, with what is computed from it', async () => {
    const { own, other } = await both();
    await add(own, other);
    await t.send('POST', `/api/datasets/${own}/fields`, { name: 'Big', formula: "class = 'large'" });
    const { version } = await view(own);
    await t.refresh(other, 'Name,Class,Places\nAuk,large,1\n', 'mode=append');
    await expect
      .poll(() => column(own, 'class'), { timeout: 15_000 })
      .toEqual(['small', 'large', 'large', null, 'small', 'small']);
    expect(await column(own, 'big')).toEqual([false, true, true, null, false, false]);
    const after = (await view(own)).version;
    expect(after).toBeGreaterThan(version);
    // What changes nothing here leaves it as it is; a key that has come to stand twice says nothing.
    await t.refresh(other, 'Name,Class,Places\nRail,large,1\n', 'mode=append');
    const inStep = async () => {
      const { rows } = await t.database.pool.query(
        `SELECT (lookup ->> 'version')::bigint = other.version AS same FROM sorvik.fields JOIN sorvik.datasets AS other ON other.id = lookup ->> 'dataset' WHERE dataset = $1`,
        [own],
      );
      return rows.every(({ same }) => same);
    };
    await expect.poll(inStep, { timeout: 15_000 }).toBe(true);
    expect((await view(own)).version).toBe(after);
    await t.refresh(other, 'Name,Class,Places\nTern,large,1\n', 'mode=append');
    await expect
      .poll(() => column(own, 'class'), { timeout: 15_000 })
      .toEqual([null, 'large', 'large', null, null, 'small']);
  });

  it('keeps what it needs from going', async () => {
    const { own, other } = await both();
    await add(own, other);
    const gone = await t.send('DELETE', `/api/datasets/${other}`);
    expect(gone.status).toBe(409);
    expect(gone.body.detail).toContain('"Vessels" is needed: "Class" of "Sailings" is looked up there.');
    const staged = await t.stage(other, 'Name,Places\nTern,1\n');
    expect(staged.preview.refused).toContain('"Class" is needed');
    expect((await t.send('POST', `/api/imports/${staged.id}/take`)).status).toBe(409);
    expect(
      (await t.send('POST', `/api/datasets/${other}/fields/name/retype`, { type: 'integer' })).body.detail,
    ).toContain('could not be compared any more');
    expect(
      (await t.send('POST', `/api/datasets/${own}/fields/vessel/retype`, { type: 'integer' })).status,
    ).toBe(409);
    expect(await column(own, 'class')).toEqual(classes);
    await t.send('DELETE', `/api/datasets/${own}/fields/class`);
    expect((await t.send('DELETE', `/api/datasets/${other}`)).status).toBe(204);
  });
});
