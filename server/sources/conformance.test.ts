import { type PartialAggregate, partialKey } from '@sorvik/core/data/cube';
import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import { grains } from '@sorvik/core/data/dimension';
import type { Kept } from '@sorvik/core/data/kept';
import { isTemporal, type KeyValue } from '@sorvik/core/data/values';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Field, fieldsOf, findDataset } from '../datasets/store';
import { quoted, tableOf } from '../db/client';
import { inNaturalOrder } from '../db/natural-order';
import { connectionTo } from '../testing/connection-to';
import { type TestApp, testApp } from '../testing/test-app';
import { arrowStream } from './arrow';
import type { CopySource } from './copies/copy-source';
import { InPlaceSource } from './in-place/in-place-source';
import { TableSource } from './postgres/table-source';
import type { Question, Source } from './source';

/** Texts that readers of files and databases stumble over. */
const texts = [
  'Quel – Ostrin',
  'harl',
  'Harl',
  'Harl 2',
  'Harl 10',
  'Ärmel',
  'a "quoted" name',
  "o'clock",
  'comma, and more',
  'two\nlines',
  'tab\there',
  'back\\slash',
  '\\N',
  'NULL',
  '🚢 ferry',
  ' leads',
  'trails ',
  '{braces}',
  'null',
];

const rowCount = 3000;
const noise = (i: number, salt: number) => {
  const x = Math.sin(i * 12.9898 + salt * 78.233) * 43758.5453;
  return x - Math.floor(x);
};

/** Rows of every type, with gaps in all of them. */
function sampleCsv(): string {
  const cell = (text: string) => `"${text.replaceAll('"', '""')}"`;
  const lines = Array.from({ length: rowCount }, (_, i) => {
    const some = <T>(salt: number, value: T): T | '' => (noise(i, salt) < 0.07 ? '' : value);
    const date = new Date(Date.UTC(1999, 10, 1) + Math.floor(noise(i, 1) * 3000) * 86_400_000);
    const moment = new Date(Date.UTC(2021, 0, 1) + Math.floor(noise(i, 2) * 1e10));
    const fine = i % 3 ? `${moment.toISOString().slice(0, 19)}` : `${moment.toISOString().slice(0, 23)}`;
    return [
      some(3, cell(texts[Math.floor(noise(i, 4) * texts.length)]!)),
      some(5, date.toISOString().slice(0, 10)),
      some(6, fine),
      some(7, noise(i, 8) < 0.5 ? 'true' : 'false'),
      some(9, Math.floor(noise(i, 10) * 41) - 20),
      some(11, Math.floor(noise(i, 12) * 9e12) - 4e12),
      some(13, ((noise(i, 14) - 0.4) * 10 ** Math.floor(noise(i, 15) * 12)).toPrecision(12)),
      `"id ${i}"`,
    ].join(',');
  });
  return `name,day,moment,open,small,huge,figure,own\n${lines.join('\n')}\n`;
}

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
  copy = t.copies!.of(dataset, fields)!;
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

/** The rows of an answer by their keys. */
async function answered(source: Source, question: Question) {
  const cube = cubeFromArrow(arrowStream(await source.aggregate(question)));
  const cells = Array.from({ length: cube.cells }, (_, i) => {
    const key = cube.dimensions.map(({ codes, values }) => (codes[i]! < 0 ? null : values[codes[i]!]!));
    return [JSON.stringify(key), cube.partials.map(({ values }) => values[i]!)] as const;
  });
  return new Map(cells);
}

/** Sums of decimals may differ by how they were added up: by an ulp for each row. */
const isFloating = ({ aggregate, field, of }: PartialAggregate) =>
  aggregate === 'sum' && (of !== undefined || field === 'figure');

function expectSame(
  found: Map<string, number[]>,
  wanted: Map<string, number[]>,
  partials: readonly PartialAggregate[],
) {
  expect([...found.keys()].sort()).toEqual([...wanted.keys()].sort());
  for (const [key, figures] of wanted)
    figures.forEach((figure, p) => {
      const other = found.get(key)![p]!;
      if (isFloating(partials[p]!) && !Number.isNaN(figure))
        // What is added up is up to 1e12 large, whatever is left of it.
        expect(Math.abs(other - figure), key).toBeLessThanOrEqual(rowCount * Number.EPSILON * 1e12);
      else expect(other, `${partialKey(partials[p]!)} at ${key}`).toBe(figure);
    });
}

const keys = ['name', 'day', 'moment', 'open', 'small', 'own'];
const dimension = fc.constantFrom(...keys).chain((field) => {
  const dated = field === 'day' || field === 'moment';
  return dated
    ? fc
        .option(fc.constantFrom(...grains), { nil: undefined })
        .map((grain) => ({ field, ...(grain ? { grain } : {}) }))
    : fc.constant({ field });
});

const wheres = [
  'small > 3',
  "name = 'Harl' OR open",
  "name IN ('Harl 2', 'null') AND NOT open",
  'figure IS NULL',
  'small BETWEEN -3 AND 7',
  "day >= DATE '2003-05-01'",
  'small IS DISTINCT FROM 4',
  "name < 'b'",
];
const expressions = ['small * 2', 'figure - small', '-figure', 'small + figure * 3'];
const partial: fc.Arbitrary<PartialAggregate> = fc.oneof(
  fc.constant({ aggregate: 'count' } as const),
  fc.constant({ aggregate: 'first' } as const),
  fc.constantFrom(...keys, 'huge', 'figure').map((field) => ({ aggregate: 'count', field }) as const),
  fc
    .tuple(fc.constantFrom('sum', 'min', 'max'), fc.constantFrom('small', 'huge', 'figure'))
    .map(([aggregate, field]) => ({ aggregate, field }) as PartialAggregate),
  fc
    .tuple(fc.constantFrom('sum', 'min', 'max'), fc.constantFrom(...expressions))
    .map(([aggregate, of]) => ({ aggregate, of }) as PartialAggregate),
  fc
    .tuple(fc.constantFrom('sum', 'count'), fc.constantFrom('small', 'huge'), fc.constantFrom(...wheres))
    .map(([aggregate, field, where]) => ({ aggregate, field, where }) as PartialAggregate),
  fc.constantFrom('name', 'small', 'day').map((field) => ({
    aggregate: 'nonAdditive' as const,
    of: `COUNT(DISTINCT ${field})`,
  })),
);

const day = fc
  .integer({ min: 0, max: 3200 })
  .map((n) => new Date(Date.UTC(1999, 9, 1) + n * 86_400_000).toISOString().slice(0, 10));
const ranges = (end: fc.Arbitrary<KeyValue>, most: number) =>
  fc.array(fc.tuple(end, end), { maxLength: most }) as fc.Arbitrary<[KeyValue, KeyValue][]>;
const kept: fc.Arbitrary<Kept> = fc.oneof(
  fc
    .array(fc.constantFrom(...texts, 'nowhere'), { maxLength: 6 })
    .map((values) => ({ field: 'name', values })),
  fc.array(fc.boolean(), { maxLength: 2 }).map((values) => ({ field: 'open', values })),
  fc.array(fc.integer({ min: -25, max: 25 }), { maxLength: 9 }).map((values) => ({ field: 'small', values })),
  ranges(day, 4).map((among) => ({ field: 'day', ranges: among })),
  ranges(day, 90).map((among) => ({ field: 'day', ranges: among })),
  ranges(fc.integer({ min: -25, max: 25 }), 5).map((among) => ({ field: 'small', ranges: among })),
  ranges(fc.double({ min: -1e6, max: 1e6, noNaN: true }), 5).map((among) => ({
    field: 'figure',
    ranges: among,
  })),
  fc
    .tuple(fc.constantFrom(...grains), ranges(day, 3))
    .map(([grain, among]) => ({ field: 'moment', grain, ranges: among })),
);
const question: fc.Arbitrary<Question> = fc.record({
  keys: fc.uniqueArray(dimension, { maxLength: 3, selector: ({ field }) => field }),
  partials: fc.uniqueArray(partial, { minLength: 1, maxLength: 5, selector: partialKey }),
  kept: fc.array(kept, { maxLength: 2 }),
  limit: fc.constant(1_000_000),
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
