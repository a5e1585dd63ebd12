import { tableFromIPC } from 'apache-arrow';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
let id: string;

const csv = `Quay,Day,At,n,Tons,Open
"Quel, ""old"" 🌊",1969-07-20,2024-02-29 10:11:12.5,7,0.1,yes
,,,,,
"two
lines",2024-02-29,1961-04-12 06:07:08,-3,1e300,no
${Array.from({ length: 12_000 }, (_, i) => `Quay ${i % 7},2024-03-01,2024-03-01 00:00:00,${i},${i / 8},yes`).join('\n')}
`;

beforeAll(async () => {
  t = await testApp();
  id = (await t.importCsv(csv, 'All kinds.csv')).dataset!;
});
afterAll(() => t.close());

const bytesOf = async (format: string) => {
  const response = await t.request(`/api/datasets/${id}/rows.${format}`);
  expect(response.status).toBe(200);
  expect(response.headers.get('content-disposition')).toContain(`${id}.${format}`);
  return new Uint8Array(await response.arrayBuffer());
};
const rowsOf = async (dataset: string) =>
  (await t.json(`/api/datasets/${dataset}/rows?limit=5`)).body.rows as unknown[][];

it.each(['parquet', 'arrow', 'csv'])('all rows as %s come in again as what they were', async (format) => {
  const again = await t.importCsv(await bytesOf(format), `Again.${format}`);
  expect(again, again.message).toMatchObject({ state: 'done', rows: 12_003, rejected: 0 });
  expect(await rowsOf(again.dataset!)).toEqual(await rowsOf(id));
  const fields = async (of: string) =>
    (await t.json(`/api/datasets/${of}`)).body.fields.map(
      ({ name, type }: { name: string; type: string }) => [name, type],
    );
  expect(await fields(again.dataset!)).toEqual(await fields(id));
  const { body } = await t.json(`/api/datasets/${again.dataset}/rows?offset=12002&limit=1`);
  expect(body.rows).toEqual([['Quay 1', '2024-03-01', '2024-03-01T00:00:00', 11_999, 1499.875, true]]);
});

it('as Arrow are read by whoever reads streams of it, batch by batch', async () => {
  const table = tableFromIPC(await bytesOf('arrow'));
  expect(table.numRows).toBe(12_003);
  expect(table.batches.length).toBeGreaterThan(2);
  expect(table.schema.fields.map(({ type }) => String(type))).toEqual([
    'Utf8',
    'Date32<DAY>',
    'Timestamp<MICROSECOND>',
    'Int64',
    'Float64',
    'Bool',
  ]);
});
