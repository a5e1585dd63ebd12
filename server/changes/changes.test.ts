import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventsOf } from '../testing/events-of';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
let id: string;
let other: string;
beforeAll(async () => {
  t = await testApp();
  id = (await t.importCsv('quay,n\nQuel,1\nHarl,2\n', 'Few.csv')).dataset!;
  other = (await t.importCsv('pier,n\nVenn,1\n', 'Other.csv')).dataset!;
});
afterAll(() => t.close());

const version = async (of: string) => (await t.json(`/api/datasets/${of}`)).body.version as number;

/** The events that a page hears which follows some datasets. */
async function following(...datasets: string[]) {
  const gone = new AbortController();
  const query = new URLSearchParams(datasets.map((each) => ['dataset', each]));
  const response = await t.request(`/api/changes?${query}`, { signal: gone.signal });
  expect(response.headers.get('content-type')).toContain('text/event-stream');
  const { next, leave } = eventsOf(response);
  return {
    next,
    leave: () => {
      gone.abort();
      return leave();
    },
  };
}

describe('a page that follows datasets', () => {
  it('is told of their versions at once, and of each that changes', async () => {
    const page = await following(id, 'nowhere');
    const before = await version(id);
    expect(JSON.parse((await page.next()).data)).toEqual({ [id]: before, nowhere: null });
    await t.send('POST', `/api/datasets/${id}/fields/n/retype`, { type: 'decimal' });
    const told = await page.next();
    expect(told).toEqual({ event: 'datasets', data: JSON.stringify({ [id]: before + 1 }) });
    expect(await version(id)).toBe(before + 1);
    await page.leave();
  });

  it('is not told of others, and is told of one that is deleted', async () => {
    const page = await following(id);
    await page.next();
    await t.send('POST', `/api/datasets/${other}/fields/n/retype`, { type: 'decimal' });
    await t.send('DELETE', `/api/datasets/${id}`);
    expect(JSON.parse((await page.next()).data)).toEqual({ [id]: null });
    await t.send('POST', `/api/datasets/${id}/restore`);
    await page.leave();
  });

  it('hears of what another server has changed', async () => {
    const page = await following(other);
    const before = await version(other);
    await page.next();
    await t.database.pool.query('UPDATE sorvik.datasets SET version = version + 1 WHERE id = $1', [other]);
    expect(JSON.parse((await page.next()).data)).toEqual({ [other]: before + 1 });
    await page.leave();
  });

  it('hears of a change that could not be looked up when it was told of', async () => {
    const page = await following(other);
    const before = await version(other);
    await page.next();
    const { pool } = t.database;
    const { query } = pool;
    let failures = 0;
    pool.query = ((text: never, ...rest: never[]) => {
      if (String(text).startsWith('SELECT id, version') && failures++ < 2)
        return Promise.reject(new Error('no connection is free'));
      return Reflect.apply(query, pool, [text, ...rest]);
    }) as never;
    try {
      await Reflect.apply(query, pool, [
        'UPDATE sorvik.datasets SET version = version + 1 WHERE id = $1',
        [other],
      ]);
      expect(JSON.parse((await page.next()).data)).toEqual({ [other]: before + 1 });
      expect(failures).toBeGreaterThan(1);
    } finally {
      pool.query = query;
    }
    await page.leave();
  });

  it('follows some, and not all there could be', async () => {
    const none = await t.json('/api/changes');
    expect([none.status, none.body.errors[0].pointer]).toEqual([422, '/dataset']);
    const many = await t.json(
      `/api/changes?${Array.from({ length: 101 }, (_, i) => `dataset=d${i}`).join('&')}`,
    );
    expect(many.status).toBe(422);
  });
});
