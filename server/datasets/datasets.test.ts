import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
let id: string;
beforeAll(async () => {
  t = await testApp();
  id = (
    await t.importCsv(
      'Quay,Opened,Depth,Seen,Lit,Code\nQuel,2019-02-28,4.5,2021-01-01 06:30,yes,12\nHarl,2020-02-29,,2021-01-02 00:00,no,x7\nQuel,,3,,yes,\n',
      'Quays.csv',
    )
  ).dataset!;
});
afterAll(() => t.close());

const get = async () => (await t.json(`/api/datasets/${id}`)).body;
const field = async (key: string) => (await get()).fields.find((each: { key: string }) => each.key === key);
const preview = async (key: string, type: string) =>
  (await t.json(`/api/datasets/${id}/fields/${key}/retype?type=${type}`)).body;

it('profiles every field', async () => {
  const { fields } = await get();
  expect(
    fields.map((f: { key: string; type: string; profile: object }) => [f.key, f.type, f.profile]),
  ).toEqual([
    ['quay', 'text', { count: 3, distinct: 2, missing: 0, min: 'Harl', max: 'Quel' }],
    [
      'opened',
      'date',
      { count: 2, distinct: 2, missing: 1, min: '2019-02-28', max: '2020-02-29', grain: 'day' },
    ],
    ['depth', 'decimal', { count: 2, distinct: 2, missing: 1, min: 3, max: 4.5 }],
    [
      'seen',
      'datetime',
      {
        count: 2,
        distinct: 2,
        missing: 1,
        min: '2021-01-01 06:30:00',
        max: '2021-01-02 00:00:00',
        grain: 'day',
      },
    ],
    ['lit', 'boolean', { count: 3, distinct: 2, missing: 0, min: 'false', max: 'true' }],
    ['code', 'text', { count: 2, distinct: 2, missing: 1, min: '12', max: 'x7' }],
  ]);
});

it('tells how values are spread', async () => {
  const shape = async (key: string) => (await t.json(`/api/datasets/${id}/fields/${key}/shape`)).body;
  expect(await shape('quay')).toEqual({
    kind: 'values',
    bins: [
      { label: 'Quel', count: 2 },
      { label: 'Harl', count: 1 },
    ],
    others: 0,
  });
  const many = (await t.importCsv(`n\n${Array.from({ length: 100 }, (_, i) => i).join('\n')}\n`, 'Many.csv'))
    .dataset;
  const { body } = await t.json(`/api/datasets/${many}/fields/n/shape`);
  expect(body.bins).toHaveLength(20);
  expect(body.bins.every((bin: { count: number }) => bin.count === 5)).toBe(true);
});

describe('a change of type', () => {
  it('says beforehand what would be lost', async () => {
    expect(await preview('code', 'integer')).toEqual({ kept: 1, lost: 1, examples: ['x7'] });
    expect(await preview('depth', 'integer')).toEqual({ kept: 1, lost: 1, examples: ['4.5'] });
    expect(await preview('seen', 'date')).toEqual({ kept: 1, lost: 1, examples: ['2021-01-01 06:30:00'] });
    expect(await preview('opened', 'datetime')).toMatchObject({ kept: 2, lost: 0 });
    expect(await preview('lit', 'integer')).toMatchObject({ kept: 3, lost: 0 });
    expect(await preview('quay', 'date')).toMatchObject({ kept: 0, lost: 3 });
  });

  it('does just that, as a new version', async () => {
    const before = await get();
    const { status, body } = await t.send('POST', `/api/datasets/${id}/fields/code/retype`, {
      type: 'integer',
    });
    expect(status).toBe(200);
    expect(body.version).toBe(before.version + 1);
    expect(await field('code')).toMatchObject({
      type: 'integer',
      profile: { count: 1, missing: 2, min: 12, max: 12 },
    });
    const { rows } = (await t.json(`/api/datasets/${id}/rows`)).body;
    expect(rows.map((row: unknown[]) => row[5])).toEqual([12, null, null]);
  });

  it('knows days that no calendar has', async () => {
    const texts = (await t.importCsv('d,n\n2021-02-30,1\n2021-02-28,2\nx,3\n', 'Days.csv')).dataset;
    const { body } = await t.json(`/api/datasets/${texts}/fields/d/retype?type=date`);
    expect(body).toMatchObject({ kept: 1, lost: 2 });
    expect((await t.send('POST', `/api/datasets/${texts}/fields/d/retype`, { type: 'date' })).status).toBe(
      200,
    );
  });

  it('refuses a type that there is not', async () => {
    const { status, body } = await t.json(`/api/datasets/${id}/fields/code/retype?type=money`);
    expect(status).toBe(422);
    expect(body.errors[0]).toMatchObject({ pointer: '/type' });
  });
});

it('renames fields and datasets without touching their keys', async () => {
  await t.send('PATCH', `/api/datasets/${id}/fields/depth`, { name: 'Depth in m "at ebb"' });
  expect(await field('depth')).toMatchObject({ key: 'depth', name: 'Depth in m "at ebb"' });
  await t.send('PATCH', `/api/datasets/${id}`, { name: 'Quays and piers' });
  expect((await get()).name).toBe('Quays and piers');
  expect((await t.send('PATCH', `/api/datasets/${id}`, { name: '' })).status).toBe(422);
});

it('deletes and restores', async () => {
  expect((await t.send('DELETE', `/api/datasets/${id}`)).status).toBe(204);
  expect((await t.json(`/api/datasets/${id}`)).status).toBe(404);
  expect((await t.send('POST', `/api/datasets/${id}/restore`)).status).toBe(200);
  expect((await get()).rows).toBe(3);
});

it('tells how finely dates are taken: of monthly ones the last stands for its month', async () => {
  const grainOf = async (...dates: string[]) => {
    const { dataset } = await t.importCsv(`day\n${dates.join('\n')}\n`, 'Dates.csv');
    return (await t.json(`/api/datasets/${dataset}`)).body.fields[0].profile.grain;
  };
  expect(await grainOf('2023-01-01', '2023-02-01', '2023-12-01')).toBe('month');
  expect(await grainOf('2023-01-01', '2023-07-01')).toBe('quarter');
  expect(await grainOf('2021-01-01', '2023-01-01')).toBe('year');
  expect(await grainOf('2024-03-04', '2024-03-11')).toBe('week');
  expect(await grainOf('2024-03-01', '2024-03-02')).toBe('day');
  expect(await grainOf('2024-01-01')).toBe('day');
  expect(await grainOf('2024-01-01 00:00:00', '2024-02-01 00:00:00', '2024-03-01 00:00:01')).toBe('day');
});

it.each([
  [30, 15, '0 to 1', [2, 2]],
  [20, 20, '0', [1, 1]],
  [41, 14, '0 to 2', [3, 3]],
  [1000, 20, '0 to 49', [50, 50]],
])('whole numbers from 0 up to below %i have bins of whole numbers', async (n, bins, first, counts) => {
  const { dataset } = await t.importCsv(
    `n\n${Array.from({ length: n }, (_, i) => i).join('\n')}\n`,
    'Whole.csv',
  );
  const { body } = await t.json(`/api/datasets/${dataset}/fields/n/shape`);
  expect(body.bins).toHaveLength(bins);
  expect(body.bins[0].label).toBe(first);
  expect(body.bins.slice(0, 2).map(({ count }: { count: number }) => count)).toEqual(counts);
  expect(body.bins.reduce((sum: number, { count }: { count: number }) => sum + count, 0)).toBe(n);
});

it('all rows are downloaded as CSV, in their order and with what is computed, and come in again as they were', async () => {
  const csv = 'Name,n,Day,Open,At\n"Quel ""A"", far\nout",1,2024-03-01,yes,2024-03-01T10:00:00\n🚢,,,no,\n';
  const { dataset } = await t.importCsv(csv, 'Out.csv');
  await t.send('POST', `/api/datasets/${dataset}/fields`, { name: 'Twice', formula: 'n * 2' });
  const answer = await t.request(`/api/datasets/${dataset}/rows.csv`);
  expect(answer.headers.get('content-disposition')).toBe(`attachment; filename="${dataset}.csv"`);
  const text = await answer.text();
  expect(text).toBe(
    'Name,n,Day,Open,At,Twice\n"Quel ""A"", far\nout",1,2024-03-01,true,2024-03-01T10:00:00.000,2\n🚢,,,false,,\n',
  );
  const again = await t.importCsv(text, 'Again.csv');
  const rows = async (id: string) => (await t.json(`/api/datasets/${id}/rows`)).body.rows;
  expect(await rows(again.dataset!)).toEqual(await rows(dataset!));
  expect((await t.json('/api/datasets/nowhere/rows.csv')).status).toBe(404);
});
