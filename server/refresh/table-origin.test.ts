import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { connectionTo } from '../testing/connection-to';
import { type TestApp, testApp } from '../testing/test-app';

/** The application, and a database of somebody else's with a table that is read in place. */
let t: TestApp;
let other: TestApp;
let placed: string;

const there = (text: string) => other.database.pool.query(text);
const view = async (id: string) => (await t.json(`/api/datasets/${id}`)).body;
const rowsOf = async (id: string) => (await t.json(`/api/datasets/${id}/rows`)).body.rows as unknown[][];

beforeAll(async () => {
  [t, other] = await Promise.all([testApp({ schedules: true }), testApp()]);
  await there(`CREATE TABLE public.landings (id integer PRIMARY KEY, quay text, tons float8, at timestamp, late boolean, day date);
    INSERT INTO public.landings VALUES (2, '007', 1.5, '1969-12-31 23:59:30', true, '2024-02-29'), (1, 'Ness "old" 🚢', NULL, NULL, false, NULL)`);
  const { body: connection } = await t.send('POST', '/api/connections', connectionTo(other.url));
  const made = await t.send('POST', `/api/connections/${connection.id}/datasets`, {
    schema: 'public',
    table: 'landings',
    name: 'Landings there',
  });
  placed = made.body.id;
});
afterAll(async () => {
  await t.close();
  await other.close();
});

async function copied(): Promise<string> {
  const { status, body } = await t.send('POST', `/api/datasets/${placed}/copies`);
  expect(status, JSON.stringify(body)).toBe(201);
  const job = await t.settled(body.id);
  expect(job.state, job.message).toBe('done');
  return job.dataset!;
}
const first = [
  [1, 'Ness "old" 🚢', null, null, false, null],
  [2, '007', 1.5, '1969-12-31T23:59:30', true, '2024-02-29'],
];

describe('a copy of a table in place', () => {
  it('is a dataset of its own with the types and the order of the table', async () => {
    const id = await copied();
    const { fields, inPlace, name } = await view(id);
    expect(name).toMatch(/^Landings there/);
    expect(inPlace).toBeUndefined();
    expect(fields.map(({ type }: { type: string }) => type)).toEqual([
      'integer',
      'text',
      'decimal',
      'datetime',
      'boolean',
      'date',
    ]);
    expect(await rowsOf(id)).toEqual(first);
  });

  it('is refreshed from the table, once and by itself; what is the same is no version', async () => {
    const id = await copied();
    const address = `dataset:${placed}`;
    await there(`INSERT INTO public.landings (id, quay, tons) VALUES (3, 'Quel', 7)`);
    const { body: job } = await t.send('POST', `/api/datasets/${id}/refreshes/address`, {
      address,
      mode: 'merge',
      by: 'id',
    });
    expect((await t.settled(job.id)).state).toBe('staged');
    expect((await t.json(`/api/imports/${job.id}/preview`)).body.rows).toEqual({
      now: 2,
      in: 3,
      out: 2,
      after: 3,
    });
    await t.send('POST', `/api/imports/${job.id}/take`);
    expect(await rowsOf(id)).toEqual([...first, [3, 'Quel', 7, null, null, null]]);

    const scheduled = await t.send('PUT', `/api/datasets/${id}/schedule`, {
      address,
      mode: 'replace',
      cadence: '0 6 * * *',
      zone: 'Europe/Oslo',
    });
    expect(scheduled.status, JSON.stringify(scheduled.body)).toBe(200);
    await there('DELETE FROM public.landings WHERE id = 3');
    await t.send('POST', `/api/datasets/${id}/schedule/run`);
    await expect.poll(() => rowsOf(id), { timeout: 20_000 }).toEqual(first);
    const { version, schedule } = await view(id);
    await t.send('POST', `/api/datasets/${id}/schedule/run`);
    const doneAt = async () => (await view(id)).schedule.doneAt;
    await expect.poll(doneAt, { timeout: 20_000 }).not.toBe(schedule.doneAt);
    expect((await view(id)).version).toBe(version);
  });

  it('keeps its rows where the table has lost a column, and says so', async () => {
    const id = await copied();
    await t.send('PUT', `/api/datasets/${id}/schedule`, {
      address: `dataset:${placed}`,
      mode: 'replace',
      cadence: '0 6 * * *',
      zone: 'UTC',
    });
    await there('ALTER TABLE public.landings RENAME quay TO pier');
    try {
      await t.send('POST', `/api/datasets/${id}/schedule/run`);
      await expect.poll(async () => (await view(id)).schedule.problem, { timeout: 20_000 }).toMatch(/quay/);
      expect(await rowsOf(id)).toEqual(first);
      const refused = await t.send('POST', `/api/datasets/${placed}/copies`);
      expect(refused.status).toBe(502);
      expect(refused.body.detail).toContain('quay');
    } finally {
      await there('ALTER TABLE public.landings RENAME pier TO quay');
    }
  });

  it('is refused of a dataset that is no table in place', async () => {
    const id = await copied();
    expect((await t.send('POST', `/api/datasets/${id}/copies`)).status).toBe(409);
    const wrong = await t.send('PUT', `/api/datasets/${id}/schedule`, {
      address: `dataset:${id}`,
      mode: 'replace',
      cadence: '0 6 * * *',
      zone: 'UTC',
    });
    expect(wrong.status).toBe(422);
    expect(wrong.body.errors[0].pointer).toBe('/address');
  });
});
