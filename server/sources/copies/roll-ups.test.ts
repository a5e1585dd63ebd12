import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import type { Kept } from '@sorvik/core/data/kept';
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import { fieldsOf, findDataset } from '../../datasets/store';
import { type TestApp, testApp } from '../../testing/test-app';
import { arrowStream } from '../arrow';
import type { Question } from '../source';
import type { CopySource } from './copy-source';

let t: TestApp;
let id: string;
let token: string;

beforeAll(async () => {
  t = await testApp({ copies: true });
});
afterAll(() => t.close());
beforeEach(async () => {
  const lines = Array.from({ length: 60 }, (_, i) => `Q${i % 3},${i % 4},${i}`);
  id = (await t.importCsv(`quay,hour,tons\n${lines.join('\n')}\n`, 'Landings.csv')).dataset!;
  token = (await t.send('POST', `/api/datasets/${id}/tokens`, { name: 'Scales' })).body.token;
  await t.copies!.settled();
});

const current = async () => {
  const dataset = await findDataset(t.database.db, id);
  const fields = await fieldsOf(t.database.db, id);
  await t.copies!.caughtUp(dataset);
  return { dataset, fields, copy: t.copies!.of(dataset, fields, null)! };
};
const byQuay = (...hours: number[]): Question => ({
  keys: [{ field: 'quay' }],
  partials: [{ aggregate: 'sum', field: 'tons' }, { aggregate: 'count' }],
  kept: [{ field: 'hour', values: hours } satisfies Kept],
  limit: 100,
});
const figures = async (copy: CopySource, question: Question) => {
  const { dimensions, partials } = cubeFromArrow(arrowStream(await copy.aggregate(question)));
  return Object.fromEntries(
    [...dimensions[0]!.codes].map((code, i) => [
      dimensions[0]!.values[code],
      partials.map(({ values }) => values[i]),
    ]),
  );
};
/** The roll-up that a question would be answered from, asked as often as it takes to have one. */
const rolled = async (question: Question) => {
  const { dataset, fields, copy } = await current();
  return t.copies!.rollUps.of(id, dataset, copy.table, fields, question);
};
const rollUp = async () => {
  const { copy } = await current();
  await figures(copy, byQuay(0));
  await figures(copy, byQuay(1));
  await t.copies!.rollUps.settled();
};
const push = (rows: object[], query = '') =>
  t.request(`/api/datasets/${id}/rows${query}`, {
    method: 'POST',
    headers: { authorization: `Bearer ${token}`, 'content-type': 'application/x-ndjson' },
    body: rows.map((row) => JSON.stringify(row)).join('\n'),
  });

it('what is asked a second time is rolled up, for whatever is kept then', async () => {
  expect(await rolled(byQuay(0))).toBeNull();
  await rollUp();
  const found = (await rolled(byQuay(2)))!;
  expect(found.table).toMatch(/^memory\.main\.rolled_\d+$/);
  const { copy } = await current();
  // Of 0 to 59, each fourth: those of hours 2 and 3 by their remainder of three.
  expect(await figures(copy, byQuay(2, 3))).toEqual({ Q0: [285, 10], Q1: [325, 10], Q2: [305, 10] });
  // Other figures are another roll-up.
  expect(await rolled({ ...byQuay(2), partials: [{ aggregate: 'max', field: 'tons' }] })).toBeNull();
});

it('rows that come are in it, and it is the same', async () => {
  await rollUp();
  const { table } = (await rolled(byQuay(2)))!;
  expect(
    (
      await push([
        { quay: 'Q0', hour: 2, tons: 1000 },
        { quay: 'New', hour: 2, tons: 5 },
      ])
    ).status,
  ).toBe(200);
  const { copy } = await current();
  expect((await rolled(byQuay(2)))!.table).toBe(table);
  expect(await figures(copy, byQuay(2, 3))).toEqual({
    Q0: [1285, 11],
    Q1: [325, 10],
    Q2: [305, 10],
    New: [5, 1],
  });
});

it('where rows went it is given up', async () => {
  await rollUp();
  const answer = await push([{ quay: 'Q0', hour: 2, tons: 7 }], '?mode=merge&by=quay');
  expect(answer.status, await answer.clone().text()).toBe(200);
  const { copy } = await current();
  expect(await rolled(byQuay(2))).toBeNull();
  expect(await figures(copy, byQuay(2, 3))).toEqual({ Q0: [7, 1], Q1: [325, 10], Q2: [305, 10] });
});

it('one that was made of what rows were before is not used', async () => {
  const { copy } = await current();
  await figures(copy, byQuay(0));
  await figures(copy, byQuay(1));
  await push([{ quay: 'Q1', hour: 2, tons: 1 }]);
  const now = await current();
  await t.copies!.rollUps.settled();
  expect(await figures(now.copy, byQuay(2, 3))).toEqual({ Q0: [285, 10], Q1: [326, 11], Q2: [305, 10] });
});

it('one that does not answer is given up, and all rows answer', async () => {
  await rollUp();
  const { table } = (await rolled(byQuay(2)))!;
  // biome-ignore lint/suspicious/noExplicitAny: the store of copies is theirs alone
  await (t.copies as any).engine.ask(`DROP TABLE ${table}`);
  const { copy } = await current();
  expect(await figures(copy, byQuay(2, 3))).toEqual({ Q0: [285, 10], Q1: [325, 10], Q2: [305, 10] });
  expect(await rolled(byQuay(2))).toBeNull();
});

it('one that has grown much by what came is made anew', async () => {
  await rollUp();
  const { table } = (await rolled(byQuay(2)))!;
  const many = Array.from({ length: 21_000 }, (_, i) => ({ quay: `New ${i}`, hour: 2, tons: 1 }));
  expect((await push(many)).status).toBe(200);
  const { copy } = await current();
  expect(Object.keys(await figures(copy, { ...byQuay(2, 3), limit: 30_000 }))).toHaveLength(21_003);
  expect((await rolled(byQuay(2)))?.table).not.toBe(table);
});
