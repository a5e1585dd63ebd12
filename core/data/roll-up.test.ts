import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { keepValues } from '../conditions/keep-values';
import { cellMask } from './cell-mask';
import type { Cube } from './cube';
import { keyValues, rollUp } from './roll-up';

const quays = ['Quel', 'Harl', 'Ostrin'];
const years = ['2023-01-01', '2024-01-01'];
interface Cell {
  quay: number;
  year: number;
  sum: number | null;
  count: number;
}

/** Cells with and without keys and figures, each combination at most once, as a database groups them. */
const anyCells = fc.uniqueArray(
  fc.record<Cell>({
    quay: fc.integer({ min: -1, max: 2 }),
    year: fc.integer({ min: -1, max: 1 }),
    sum: fc.option(fc.integer({ min: -100, max: 100 })),
    count: fc.nat(9),
  }),
  { selector: ({ quay, year }) => `${quay} ${year}`, maxLength: 12 },
);

const cubeOf = (cells: readonly Cell[]): Cube => {
  const figures = Float64Array.from(cells, (cell) => cell.sum ?? Number.NaN);
  return {
    cells: cells.length,
    dimensions: [
      { field: 'quay', values: quays, codes: Int32Array.from(cells, (cell) => cell.quay) },
      { field: 'day', grain: 'year', values: years, codes: Int32Array.from(cells, (cell) => cell.year) },
    ],
    partials: [
      { aggregate: 'sum', field: 'n', values: figures },
      { aggregate: 'min', field: 'n', values: figures },
      { aggregate: 'max', field: 'n', values: figures },
      { aggregate: 'count', values: Float64Array.from(cells, (cell) => cell.count) },
    ],
  };
};

const wanted = [
  { aggregate: 'sum', field: 'n' },
  { aggregate: 'min', field: 'n' },
  { aggregate: 'max', field: 'n' },
  { aggregate: 'count' },
] as const;

/** The same by plain means: filter, group, then each figure from its list. */
function naive(cells: readonly Cell[], kept: readonly string[] | null) {
  const groups = new Map<string | null, Cell[]>();
  for (const cell of cells) {
    if (kept && (cell.year < 0 || !kept.includes(years[cell.year]!))) continue;
    const key = cell.quay < 0 ? null : quays[cell.quay]!;
    groups.set(key, [...(groups.get(key) ?? []), cell]);
  }
  return new Map(
    [...groups].map(([key, list]) => {
      const figures = list.map((cell) => cell.sum).filter((sum) => sum !== null);
      return [
        key,
        [
          figures.length ? figures.reduce((a, b) => a + b, 0) : null,
          figures.length ? Math.min(...figures) : null,
          figures.length ? Math.max(...figures) : null,
          list.reduce((total, cell) => total + cell.count, 0),
        ],
      ];
    }),
  );
}

describe('a roll-up', () => {
  it('says what plain grouping says', () => {
    fc.assert(
      fc.property(anyCells, fc.option(fc.subarray([...years, '1999-01-01'])), (cells, kept) => {
        const cube = cubeOf(cells);
        const mask = cellMask(cube, kept ? [keepValues({ field: 'day', grain: 'year' }, kept)] : []);
        const { keys, partials } = rollUp(cube, [{ field: 'quay' }], wanted, mask);
        const actual = new Map(
          keyValues(keys[0]!).map((key, i) => [
            key,
            partials.map((partial) => (Number.isNaN(partial[i]!) ? null : partial[i]!)),
          ]),
        );
        expect(actual).toEqual(naive(cells, kept));
      }),
    );
  });

  it('over two filters keeps what both keep', () => {
    fc.assert(
      fc.property(anyCells, fc.subarray(quays), fc.subarray(years), (cells, someQuays, someYears) => {
        const mask = cellMask(cubeOf(cells), [
          keepValues({ field: 'quay' }, someQuays),
          keepValues({ field: 'day', grain: 'year' }, someYears),
        ])!;
        cells.forEach((cell, i) => {
          const keeps =
            cell.quay >= 0 &&
            cell.year >= 0 &&
            someQuays.includes(quays[cell.quay]!) &&
            someYears.includes(years[cell.year]!);
          expect(mask[i]).toBe(keeps ? 1 : 0);
        });
      }),
    );
  });

  it('of nothing is nothing', () => {
    expect(rollUp(cubeOf([]), [{ field: 'quay' }], wanted, null).length).toBe(0);
  });
});
