import { type PartialAggregate, partialKey } from '@sorvik/core/data/cube';
import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import { grains } from '@sorvik/core/data/dimension';
import type { Kept } from '@sorvik/core/data/kept';
import type { KeyValue } from '@sorvik/core/data/values';
import fc from 'fast-check';
import { expect } from 'vitest';
import { arrowStream } from '../sources/arrow';
import type { Question, Source } from '../sources/source';

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

export const rowCount = 3000;
const noise = (i: number, salt: number) => {
  const x = Math.sin(i * 12.9898 + salt * 78.233) * 43758.5453;
  return x - Math.floor(x);
};

/** Rows of every type, with gaps in all of them. */
export function sampleCsv(): string {
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

/** The rows of an answer by their keys. */
export async function answered(source: Source, question: Question) {
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

export function expectSame(
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

/** Conditions on a row, as formulas and as PostgreSQL's own. */
export const wheres = [
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
/** Whatever can be asked of them. */
export const question: fc.Arbitrary<Question> = fc.record({
  keys: fc.uniqueArray(dimension, { maxLength: 3, selector: ({ field }) => field }),
  partials: fc.uniqueArray(partial, { minLength: 1, maxLength: 5, selector: partialKey }),
  kept: fc.array(kept, { maxLength: 2 }),
  limit: fc.constant(1_000_000),
});
