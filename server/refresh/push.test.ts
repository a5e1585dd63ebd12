import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import { tableFromArrays, tableToIPC } from 'apache-arrow';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { findDataset } from '../datasets/store';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
let id: string;
let token: string;

beforeAll(async () => {
  t = await testApp({ copies: true });
});
afterAll(() => t.close());

const fresh = async () => {
  id = (await t.importCsv('day,quay,tons\n2024-03-01,Quel,10\n2024-03-01,Ness,7.5\n', 'Catches.csv'))
    .dataset!;
  const made = await t.send('POST', `/api/datasets/${id}/tokens`, { name: 'The scales' });
  expect(made.status).toBe(201);
  token = made.body.token;
};

const push = (body: string | Uint8Array, query = '', headers: Record<string, string> = {}) =>
  t.json(`/api/datasets/${id}/rows${query}`, {
    method: 'POST',
    body: body as BodyInit,
    headers: { authorization: `Bearer ${token}`, 'content-type': 'application/x-ndjson', ...headers },
  });
const rows = async () => (await t.json(`/api/datasets/${id}/rows`)).body.rows as unknown[][];

describe('pushed rows', () => {
  it('come as NDJSON, CSV and Arrow; fields are named by key or name', async () => {
    await fresh();
    await t.send('PATCH', `/api/datasets/${id}/fields/quay`, { name: 'Landing place' });
    expect(
      (await push('{"day":"2024-03-02","landing place":"Toft","tons":1}\n{"tons":null}\n')).body,
    ).toMatchObject({
      rows: 2,
      replaced: 0,
    });
    expect((await push('quay,tons\n"Quel, old",2.5\n', '', { 'content-type': 'text/csv' })).status).toBe(200);
    const arrow = tableToIPC(tableFromArrays({ quay: ['Ness'], tons: Float64Array.from([3]) }), 'stream');
    const sent = await push(arrow, '', { 'content-type': 'application/vnd.apache.arrow.stream' });
    expect(sent.status, JSON.stringify(sent.body)).toBe(200);
    expect((await rows()).slice(2)).toEqual([
      ['2024-03-02', 'Toft', 1],
      [null, null, null],
      [null, 'Quel, old', 2.5],
      [null, 'Ness', 3],
    ]);
  });

  it('of an hour are one version, which can be gone back from', async () => {
    await fresh();
    for (const tons of [1, 2, 3]) await push(`{"quay":"Quel","tons":${tons}}`);
    const { body } = await t.json(`/api/datasets/${id}/versions`);
    expect(body).toMatchObject([
      { seq: 2, kind: 'push', rowsIn: 3, rows: 5, from: 'The scales' },
      { seq: 1, kind: 'import', rows: 2 },
    ]);
    await t.send('POST', `/api/datasets/${id}/versions/back`, { version: 1 });
    expect(await rows()).toHaveLength(2);
    await t.send('POST', `/api/datasets/${id}/versions/back`, { version: 2 });
    expect(await rows()).toHaveLength(5);
  });

  it('replace those with the same key', async () => {
    await fresh();
    const sent = await push('{"quay":"Quel","tons":1}\n{"quay":"Toft","tons":2}', '?mode=merge&by=quay');
    expect(sent.body).toMatchObject({ rows: 2, replaced: 1 });
    await push('{"quay":"Toft","tons":5}', '?mode=merge&by=quay');
    expect(await rows()).toEqual([
      ['2024-03-01', 'Ness', 7.5],
      [null, 'Quel', 1],
      [null, 'Toft', 5],
    ]);
    expect((await push('{"tons":1}', '?mode=merge&by=quay')).body.detail).toContain('row 1 has no quay');
    await t.send('POST', `/api/datasets/${id}/versions/back`, { version: 1 });
    expect((await rows()).map((row) => row[1]).sort()).toEqual(['Ness', 'Quel']);
  });

  it('are computed where fields are', async () => {
    await fresh();
    await t.send('POST', `/api/datasets/${id}/fields`, { name: 'Kilos', formula: 'tons * 1000' });
    await push('{"quay":"Toft","tons":2}');
    expect((await rows()).at(-1)).toEqual([null, 'Toft', 2, 2000]);
  });

  it('under a key of the sender are added once, however often they are sent', async () => {
    await fresh();
    const send = () => push('{"quay":"Toft"}', '', { 'idempotency-key': 'load 17' });
    const answers = await Promise.all([send(), send(), send()]);
    expect(new Set(answers.map(({ body }) => body.version)).size).toBe(1);
    expect(await rows()).toHaveLength(3);
    await push('{"quay":"Toft"}', '', { 'idempotency-key': 'load 18' });
    expect(await rows()).toHaveLength(4);
  });

  it.each([
    ['{"quay":"a"}\n{"tons":"many"}', 422, 'rows/2/tons: "many" is not a number'],
    ['{"quay":"a"}\n{', 422, 'rows/2: the line is not JSON'],
    ['{"crew":3}', 422, 'no field "crew". Fields that can be pushed are day, quay, tons'],
    ['{"day":"2024-02-30"}', 422, 'rows/1/day: "2024-02-30" is not a date'],
    ['{"tons":[1]}', 422, 'rows/1/tons'],
    ['', 422, 'no rows were sent'],
  ])('%s is refused, and nothing of it is there', async (body, status, detail) => {
    await fresh();
    const sent = await push(body);
    expect([sent.status, sent.body.detail]).toEqual([status, expect.stringContaining(detail)]);
    expect(await rows()).toHaveLength(2);
  });

  it('need a token of this very dataset, and of no other', async () => {
    await fresh();
    const other = token;
    await fresh();
    const mine = token;
    for (const each of ['', 'srv_nothing', other]) {
      token = each;
      expect((await push('{"quay":"a"}')).status).toBe(401);
    }
    token = mine;
    const { body } = await t.json(`/api/datasets/${id}/tokens`);
    expect(body).toMatchObject([{ name: 'The scales', usedAt: null }]);
    expect(JSON.stringify(body)).not.toContain(mine);
    await push('{"quay":"a"}');
    await t.send('DELETE', `/api/datasets/${id}/tokens/${body[0].id}`);
    expect((await push('{"quay":"a"}')).status).toBe(401);
    expect(await rows()).toHaveLength(3);
  });

  it('of another type are refused with those there are', async () => {
    await fresh();
    const sent = await push('<rows/>', '', { 'content-type': 'text/xml' });
    expect([sent.status, sent.body.detail]).toEqual([
      415,
      expect.stringContaining('application/x-ndjson, text/csv'),
    ]);
  });
});

it('a copy follows many pushes, whatever order they come in, and answers like the table', async () => {
  await fresh();
  await t.copies!.settled();
  const sums = new Map<string, number>([
    ['Quel', 10],
    ['Ness', 7.5],
  ]);
  const names = ['Quel', 'Ness', 'Toft', 'Brim'];
  const batch = (from: number) =>
    Array.from({ length: 50 }, (_, i) => ({ quay: names[(from + i) % 4]!, tons: (from + i) % 13 }));
  for (let round = 0; round < 8; round++) {
    const batches = [0, 1, 2].map((k) => batch(round * 7 + k));
    for (const { quay, tons } of batches.flat()) sums.set(quay, (sums.get(quay) ?? 0) + tons);
    await Promise.all(batches.map((each) => push(each.map((row) => JSON.stringify(row)).join('\n'))));
    const { version } = await findDataset(t.database.db, id);
    const response = await t.request(
      `/api/datasets/${id}/cube?version=${version}&key=quay&aggregate=sum.tons`,
    );
    expect(response.status).toBe(200);
    const cube = cubeFromArrow(new Uint8Array(await response.arrayBuffer()));
    const [quay] = cube.dimensions;
    const found = Object.fromEntries(
      Array.from({ length: cube.cells }, (_, i) => [
        quay!.values[quay!.codes[i]!],
        cube.partials[0]!.values[i],
      ]),
    );
    expect(found).toEqual(Object.fromEntries(sums));
  }
  expect(t.copies!.view(await findDataset(t.database.db, id))).toEqual({ state: 'ready' });
});

it('what is known of fields follows pushes as if it were found out anew', async () => {
  await fresh();
  await t.copies!.settled();
  const view = async () => (await t.json(`/api/datasets/${id}`)).body;
  const profiles = async () => {
    // At first they may be of a moment ago.
    await expect.poll(view, { timeout: 15_000 }).not.toHaveProperty('behind');
    return (await view()).fields.map(({ key, profile }: { key: string; profile: unknown }) => [key, profile]);
  };
  const anew = async () => {
    await t.database.pool.query('UPDATE sorvik.fields SET profile = NULL WHERE dataset = $1', [id]);
    t.database.changes.tell();
    return profiles();
  };
  await profiles();
  for (const body of [
    '{"day":"2024-03-02","quay":"Äspö","tons":-3}\n{"quay":"Quel","tons":10}',
    '{"day":"2023-01-01","tons":7.5}\n{"day":"2025-01-01","quay":"","tons":1e9}',
    '{"quay":"Zz","tons":0.1}',
  ]) {
    await push(body);
    const found = await profiles();
    expect(found).toEqual(await anew());
  }
  await push('{"quay":"Zz","tons":5}', '?mode=merge&by=quay');
  expect(await profiles()).toEqual(await anew());
});

it('a dataset answers while rows are pushed all the time, and is exact once they have come', async () => {
  await fresh();
  const view = async () => {
    const { status, body } = await t.json(`/api/datasets/${id}`);
    expect(status, JSON.stringify(body)).toBe(200);
    return body;
  };
  await view();
  let over = false;
  const asking = Array.from({ length: 6 }, async () => {
    const seen: { behind?: true; version: number }[] = [];
    while (!over) {
      seen.push(await view());
      // Answers that are kept take no time at all: others would never have their turn.
      await new Promise((done) => setTimeout(done, 2));
    }
    return seen;
  });
  const pushed = 60;
  try {
    for (let n = 1; n <= pushed; n++) {
      const { status, body } = await push(`{"quay":"Quel","tons":${1000 + n}}`);
      expect(status, JSON.stringify(body)).toBe(200);
    }
  } finally {
    over = true;
  }
  const seen = (await Promise.all(asking)).flat();
  expect(seen.length).toBeGreaterThan(6);
  await expect.poll(view, { timeout: 15_000 }).not.toHaveProperty('behind');
  const last = await view();
  expect(last).toMatchObject({ rows: 2 + pushed });
  const tons = last.fields.find(({ key }: { key: string }) => key === 'tons');
  expect(tons.profile).toMatchObject({ count: 2 + pushed, max: 1000 + pushed, min: 7.5 });
});

it('rows that were pushed are found without looking through all that came before them', async () => {
  await fresh();
  const batch = Array.from({ length: 10_000 }, (_, i) => JSON.stringify({ quay: `Quel ${i}`, tons: i })).join(
    '\n',
  );
  for (let i = 0; i < 7; i++) expect((await push(batch)).status).toBe(200);
  const { number } = await findDataset(t.database.db, id);
  const client = await t.database.pool.connect();
  /** So many rows are looked at for the last ten. */
  const looked = async () => {
    await client.query('SET enable_seqscan = off');
    const { rows: plan } = await client.query(
      `EXPLAIN (ANALYZE, FORMAT JSON) SELECT * FROM data.d_${number} WHERE "#place" >= 69990`,
    );
    const scan = plan[0]['QUERY PLAN'][0].Plan;
    return scan['Actual Rows'] + scan['Rows Removed by Index Recheck'];
  };
  try {
    await expect.poll(looked, { timeout: 10_000 }).toBeLessThan(40_000);
  } finally {
    client.release(true);
  }
});
