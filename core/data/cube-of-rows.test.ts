import fc from 'fast-check';
import { expect, it } from 'vitest';
import { randomFrom, cubeOfRows as testCube, valueOfRow } from '../testing/cube-of-rows';
import type { Cube, PartialAggregate } from './cube';
import { cubeFromJson, cubeToJson } from './cube-json';
import { cubeOfRows, type PlainRow } from './cube-of-rows';
import type { Dimension } from './dimension';

const row = fc.record({
  quay: fc.constantFrom('Quel', 'Harl', 'Tarsk "old"', null),
  day: fc.constantFrom('2024-01-31', '2024-02-01', '2023-12-31', null),
  open: fc.constantFrom(true, false, null),
  tons: fc.option(fc.integer({ min: -50, max: 50 })),
});
const dimensions: Dimension[] = [
  { field: 'quay' },
  { field: 'day', grain: 'month' },
  { field: 'day' },
  { field: 'open' },
];
const partials: PartialAggregate[] = [
  { aggregate: 'count' },
  { aggregate: 'count', field: 'tons' },
  { aggregate: 'sum', field: 'tons' },
  { aggregate: 'min', field: 'tons' },
  { aggregate: 'max', field: 'tons' },
  { aggregate: 'first' },
];

/** The cells of a cube, each by its keys, whatever their order. */
function cellsOf({ cells, dimensions: keys, partials: figures }: Cube) {
  const list = Array.from({ length: cells }, (_, i) => [
    keys.map(({ values, codes }) => (codes[i]! < 0 ? null : values[codes[i]!])),
    figures.map(({ values }) => String(values[i])),
  ]);
  return list.map((cell) => JSON.stringify(cell)).sort();
}

it('says of any rows what the database would', () => {
  fc.assert(
    fc.property(fc.array(row), fc.subarray(dimensions), (rows, keys) => {
      const wanted = testCube(
        rows as PlainRow[],
        keys,
        rows.length ? partials : partials.slice(0, 5),
        randomFrom(7),
      );
      const found = cubeOfRows(rows as PlainRow[], {
        keys,
        partials: rows.length ? partials : partials.slice(0, 5),
      });
      expect(cellsOf(found)).toEqual(cellsOf(wanted));
    }),
  );
});

it('keeps the rows that filters keep: of values, and of stretches with both ends', () => {
  fc.assert(
    fc.property(fc.array(row), (rows) => {
      const kept = [
        { field: 'quay', values: ['Quel', 'Harl'] },
        {
          field: 'day',
          grain: 'month' as const,
          ranges: [['2024-01-01', '2024-01-01']] as [string, string][],
        },
      ];
      const { partials: counted } = cubeOfRows(
        rows as PlainRow[],
        { keys: [], partials: [{ aggregate: 'count' }] },
        kept,
      );
      const left = (rows as PlainRow[]).filter(
        (each) =>
          (each.quay === 'Quel' || each.quay === 'Harl') &&
          valueOfRow(each, { field: 'day', grain: 'month' }) === '2024-01-01',
      );
      expect(counted[0]!.values[0]).toBe(left.length);
    }),
  );
});

it('a cube is the same again after it was written as JSON', () => {
  fc.assert(
    fc.property(fc.array(row, { minLength: 1 }), fc.subarray(dimensions), (rows, keys) => {
      const cube = cubeOfRows(rows as PlainRow[], { keys, partials });
      expect(cubeFromJson(cubeToJson(cube))).toEqual(cube);
    }),
  );
});

it('refuses what only the database can compute', () => {
  for (const partial of [
    { aggregate: 'nonAdditive', of: 'COUNT(DISTINCT quay)' },
    { aggregate: 'sum', of: 'tons * 2' },
    { aggregate: 'count', where: 'tons > 2' },
  ] as const)
    expect(() => cubeOfRows([{ tons: 1 }], { keys: [], partials: [partial] })).toThrow(RangeError);
});
