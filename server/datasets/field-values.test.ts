import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
let id: string;
beforeAll(async () => {
  t = await testApp();
  const rows = Array.from(
    { length: 120 },
    (_, i) => `Pier ${i},${i % 3},2021-01-${String((i % 9) + 1).padStart(2, '0')}`,
  );
  rows.push('Quay Ö,7,', '"50%_off",8,', ',9,');
  id = (await t.importCsv(`Place,n,Day\n${rows.join('\n')}\n`, 'Places.csv')).dataset!;
});
afterAll(() => t.close());

const values = async (key: string, query = '') =>
  (await t.json(`/api/datasets/${id}/fields/${key}/values?${query}`)).body;
const absent = async (key: string, list: unknown) =>
  t.json(`/api/datasets/${id}/fields/${key}/absent`, {
    method: 'POST',
    body: JSON.stringify({ values: list }),
    headers: { 'content-type': 'application/json' },
  });

describe('the values of a field', () => {
  it('come page by page, in the order people expect', async () => {
    const first = await values('place', 'limit=4');
    expect(first.total).toBe(122);
    expect(first.values.map((each: { value: string }) => each.value)).toEqual([
      '50%_off',
      'Pier 0',
      'Pier 1',
      'Pier 2',
    ]);
    const later = await values('place', 'offset=10&limit=2');
    expect(later.values.map((each: { value: string }) => each.value)).toEqual(['Pier 9', 'Pier 10']);
    expect((await values('place', 'offset=500')).values).toEqual([]);
  });
  it('are searched by how they read, without wildcards', async () => {
    expect((await values('place', 'search=PIER 11&limit=1')).found).toBe(11);
    expect((await values('place', `search=${encodeURIComponent('%_')}`)).values).toEqual([
      { value: '50%_off', count: 1 },
    ]);
    expect((await values('place', `search=${encodeURIComponent('ö')}`)).found).toBe(1);
    expect(await values('place', 'search=nowhere')).toEqual({ total: 122, found: 0, values: [] });
    expect((await values('day', 'search=3 jan')).values).toEqual([{ value: '2021-01-03', count: 14 }]);
  });
  it('put those that are asked for first before all others, on every page and in every search', async () => {
    const named = (page: { values: { value: string }[] }) => page.values.map(({ value }) => value);
    const first = 'first=Pier 9&first=Pier 118&first=nowhere';
    expect(named(await values('place', `limit=4&${first}`))).toEqual([
      'Pier 9',
      'Pier 118',
      '50%_off',
      'Pier 0',
    ]);
    expect(named(await values('place', `search=pier 11&limit=2&${first}`))).toEqual(['Pier 118', 'Pier 11']);
    expect((await values('n', 'limit=2&first=7')).values[0]).toEqual({ value: 7, count: 1 });
    expect((await t.json(`/api/datasets/${id}/fields/n/values?first=${'x'.repeat(2000)}`)).status).toBe(422);
  });
  it('leave out what is missing, and count rows', async () => {
    expect((await values('n')).values.slice(0, 4)).toEqual([
      { value: 0, count: 40 },
      { value: 1, count: 40 },
      { value: 2, count: 40 },
      { value: 7, count: 1 },
    ]);
  });
  it('refuse a field, an offset or a search that makes no sense', async () => {
    expect((await t.json(`/api/datasets/${id}/fields/nothing/values`)).status).toBe(404);
    expect((await t.json(`/api/datasets/${id}/fields/place/values?offset=-1`)).status).toBe(422);
    expect((await t.json(`/api/datasets/${id}/fields/place/values?search=${'x'.repeat(300)}`)).status).toBe(
      422,
    );
  });
});

describe('values that are not there', () => {
  it('are named, by value and not by text', async () => {
    expect((await absent('place', ['Pier 5', 'Pier 500', "'; DROP TABLE x"])).body).toEqual({
      absent: ['Pier 500', "'; DROP TABLE x"],
    });
    expect((await absent('n', [1, 4, '1'])).body).toEqual({ absent: [4, '1'] });
  });
  it('must be a list of values', async () => {
    for (const wrong of [null, 'Pier 5', [null], [{}], Array(10_001).fill('x')])
      expect((await absent('place', wrong)).status).toBe(422);
  });
});
