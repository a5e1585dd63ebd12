import type { PartialAggregate } from '@sorvik/core/data/cube';
import type { Kept } from '@sorvik/core/data/kept';
import { isTemporal } from '@sorvik/core/data/values';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Field, fieldsOf, findDataset } from '../datasets/store';
import { quoted, tableOf } from '../db/client';
import { inNaturalOrder } from '../db/natural-order';
import { connectionTo } from '../testing/connection-to';
import { answered, expectSame, question, rowCount, sampleCsv } from '../testing/every-type';
import { type TestApp, testApp } from '../testing/test-app';
import type { CopySource } from './copies/copy-source';
import { InPlaceSource } from './in-place/in-place-source';
import { TableSource } from './postgres/table-source';
import type { Question, Source } from './source';

let t: TestApp;
let fields: Field[];
let oracle: TableSource;
/** The sources under test, each held against the tables of PostgreSQL. */
const sources: [string, () => Source][] = [
  ['a column copy', () => copy],
  ['a roll-up of a column copy', () => rolledUp],
  ['a table in place', () => inPlace],
  ['a table of which days are added up first', () => byDay],
];
let copy: Source;
let rolledUp: Source;
let inPlace: Source;
let byDay: Source;

/** The same rows as they look in a database of somebody else's, under names of its own. */
async function placed(number: number): Promise<Source> {
  const columns = fields.map(({ key }) => `${quoted(key)} AS ${quoted(`Its ${key}`)}`).join(', ');
  await t.database.pool.query(
    `CREATE VIEW public."Every thing" AS SELECT ${columns} FROM ${tableOf(number)}`,
  );
  const { id } = await t.sources.connections.create({ ...connectionTo(t.url), name: 'Elsewhere' });
  const { body } = await t.send('POST', `/api/connections/${id}/datasets`, {
    schema: 'public',
    table: 'Every thing',
  });
  const asked = await t.sources.of(body.id);
  expect(asked.fields.map(({ key, type }) => [key, type])).toEqual(
    fields.map(({ key, type }) => [`its_${key}`, type]),
  );
  // Asked by the keys that the fields have at home.
  const renamed = asked.fields.map((field, i) => ({ ...field, key: fields[i]!.key }));
  return new InPlaceSource(
    await t.sources.connections.place(id),
    { ...asked.dataset, rows: Number.MAX_VALUE, fields: renamed, relation: asked.dataset.relation! },
    (texts) => inNaturalOrder(t.database, texts),
    null,
  );
}

beforeAll(async () => {
  t = await testApp({ copies: true });
  const { dataset: id } = await t.importCsv(sampleCsv(), 'Everything.csv');
  const dataset = await findDataset(t.database.db, id!);
  fields = await fieldsOf(t.database.db, id!);
  oracle = new TableSource(t.database, { ...dataset, rows: 0, fields });
  byDay = new TableSource(t.database, { ...dataset, rows: Number.MAX_VALUE, fields });
  await t.copies!.settled();
  copy = t.copies!.of(dataset, fields, null)!;
  expect(t.copies!.view(dataset)).toEqual({ state: 'ready' });
  inPlace = await placed(dataset.number);
  const rollUps = t.copies!.rollUps;
  rolledUp = Object.create(copy, {
    aggregate: {
      async value(question: Question, signal?: AbortSignal) {
        // What is asked a second time is rolled up for the third.
        for (let turn = 0; turn < 2; turn++) await copy.aggregate(question, signal);
        await rollUps.settled();
        const adds = question.partials.every(({ aggregate }) => aggregate !== 'nonAdditive');
        const { table } = copy as CopySource;
        expect((await rollUps.of(dataset.id, dataset, table, fields, question)) !== null).toBe(adds);
        return copy.aggregate(question, signal);
      },
    },
  });
});
afterAll(() => t.close());

const fieldNamed = (key: string) => fields.find((field) => field.key === key)!;

it('the sample has a field of each type', () => {
  expect(fields.map(({ type }) => type)).toEqual([
    'text',
    'date',
    'datetime',
    'boolean',
    'integer',
    'integer',
    'decimal',
    'text',
  ]);
});

describe.each(sources)('%s', (_name, source) => {
  it('answers whatever is asked as PostgreSQL does', async () => {
    await fc.assert(
      fc.asyncProperty(question, async (whole) => {
        // Where the first row of each is, a table does not know.
        const placed = source().lasting || whole.partials.every(({ aggregate }) => aggregate !== 'first');
        const asked: Question = placed ? whole : { ...whole, partials: [{ aggregate: 'count' }] };
        expect(source().answers(asked)).toBe(true);
        const [found, wanted] = await Promise.all([answered(source(), asked), answered(oracle, asked)]);
        expectSame(found, wanted, asked.partials);
      }),
      { numRuns: 300 },
    );
  }, 120_000);

  it('describes each field as PostgreSQL does', async () => {
    for (const field of fields)
      expect(await source().describe(field), field.key).toEqual(await oracle.describe(field));
  });

  it('lists the values of each field in the same order', async () => {
    for (const field of fields) {
      expect(await source().values(field), field.key).toEqual(await oracle.values(field));
      for (const most of [1, 3, 8])
        expect(await source().commonest(field, most), field.key).toEqual(await oracle.commonest(field, most));
    }
  });

  it('counts the same rows in each part of a range', async () => {
    for (const key of ['small', 'figure', 'huge'])
      for (const count of [1, 7, 20]) {
        const { min, max } = await oracle.describe(fieldNamed(key));
        const bins = { low: Number(min), width: (Number(max) - Number(min)) / count, count };
        expect(await source().bins(fieldNamed(key), bins), key).toEqual(
          await oracle.bins(fieldNamed(key), bins),
        );
      }
  });

  it('gives the same rows in the order of the file', async () => {
    for (const [offset, limit] of [
      [0, 40],
      [rowCount - 5, 100],
      [1234, 1000],
      [rowCount, 10],
    ] as const)
      expect(await source().rows(offset, limit)).toEqual(await oracle.rows(offset, limit));
  });

  it('gives no more combinations than are wanted, and one', async () => {
    const asked = {
      keys: [{ field: 'own' }],
      partials: [{ aggregate: 'count' }],
      kept: [],
      limit: 10,
    } as const;
    expect(
      (await source().aggregate({ ...asked, keys: [...asked.keys], partials: [...asked.partials] })).numRows,
    ).toBe(11);
  });

  it('is broken off when nobody waits any more', async () => {
    const gone = new AbortController();
    gone.abort(new Error('gone'));
    await expect(source().rows(0, 10, gone.signal)).rejects.toThrow();
  });
});

it('a column copy leaves to PostgreSQL what it would answer in another way', () => {
  const asks = (partials: PartialAggregate[], keep: Kept[] = []) =>
    copy.answers({ keys: [], partials, kept: keep, limit: 10 });
  const count = { aggregate: 'count' } as const;
  expect(asks([{ aggregate: 'sum', of: 'small / huge' }])).toBe(false);
  expect(asks([{ aggregate: 'sum', of: 'ROUND(figure)' }])).toBe(false);
  expect(asks([{ aggregate: 'count', of: 'small * 2' }])).toBe(false);
  expect(asks([{ aggregate: 'count', where: 'small * 2 > 4' }])).toBe(false);
  expect(asks([{ aggregate: 'count', where: "UPPER(name) = 'HARL'" }])).toBe(false);
  expect(asks([{ aggregate: 'nonAdditive', of: 'STDDEV_SAMP(figure)' }])).toBe(false);
  expect(asks([count], [{ field: 'small', values: [1.5] }])).toBe(false);
  expect(asks([count], [{ field: 'day', values: ['yesterday'] }])).toBe(false);
  expect(asks([count], [{ field: 'open', values: ['true'] }])).toBe(false);
  expect(isTemporal(fieldNamed('day').type) && asks([count])).toBe(true);
});
