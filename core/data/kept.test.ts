import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { keepValues } from '../conditions/keep-values';
import type { Cube } from './cube';
import { keptOf } from './kept';
import { rollUp } from './roll-up';
import { compareKeys, type KeyValue } from './values';

const filter = (field: string, keeps: (value: KeyValue) => boolean) => ({ field, keeps, text: () => '' });

describe('what the database is to keep', () => {
  it('is a list of texts', () => {
    const kept = keptOf(keepValues({ field: 'quay' }, ['Quel', 'Nowhere']), ['Harl', 'Quel', null], 'text');
    expect(kept).toEqual({ field: 'quay', values: ['Quel'] });
  });
  it('is stretches of figures and dates that keep just what the filter keeps', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: -20, max: 20 })),
        fc.array(fc.boolean(), { minLength: 41, maxLength: 41 }),
        (values, wanted) => {
          const { ranges = [] } = keptOf(
            filter('n', (value) => wanted[(value as number) + 20]!),
            values,
            'integer',
          );
          const inside = (value: number) =>
            ranges.some(([from, to]) => compareKeys(from, value) <= 0 && compareKeys(value, to) <= 0);
          expect(values.filter(inside)).toEqual(values.filter((value) => wanted[value + 20]));
        },
      ),
    );
    const days = ['2021-01-03', '2021-01-01', '2021-01-02', '2021-02-01'];
    expect(
      keptOf(
        filter('day', (day) => String(day) < '2021-01-03'),
        days,
        'date',
      ),
    ).toEqual({
      field: 'day',
      ranges: [['2021-01-01', '2021-01-02']],
    });
  });
});

describe('figures that cannot be added up', () => {
  const asked = { aggregate: 'nonAdditive', of: 'COUNT(DISTINCT vessel)' } as const;
  const base: Cube = {
    cells: 3,
    dimensions: [
      { field: 'quay', values: ['Quel', 'Harl'], codes: Int32Array.of(0, 0, 1) },
      { field: 'year', values: [2020, 2021], codes: Int32Array.of(0, 1, 1) },
    ],
    partials: [{ ...asked, values: Float64Array.of(2, Number.NaN, 3) }],
  };
  const byQuay: Cube = {
    cells: 2,
    dimensions: [{ field: 'quay', values: ['Harl', 'Quel'], codes: Int32Array.of(0, 1) }],
    partials: [{ ...asked, values: Float64Array.of(3, 2) }],
  };
  const read = (cube: Cube, dimensions: string[]) => {
    const { keys, partials } = rollUp(
      cube,
      dimensions.map((field) => ({ field })),
      [asked],
      null,
    );
    return Object.fromEntries(
      [...partials[0]!].map((value, g) => [keys.map(({ values, codes }) => values[codes[g]!]).join(), value]),
    );
  };
  it('are not known of several cells, even where only one of them has any', () => {
    expect(read(base, ['quay', 'year'])).toEqual({ 'Quel,2020': 2, 'Quel,2021': Number.NaN, 'Harl,2021': 3 });
    expect(read(base, ['quay'])).toEqual({ Quel: Number.NaN, Harl: 3 });
  });
  it('are those that the database was asked for at just this level', () => {
    const cube = { ...base, levels: [base, byQuay] };
    expect(read(cube, ['quay'])).toEqual({ Quel: 2, Harl: 3 });
    expect(read(cube, ['year', 'quay'])).toMatchObject({ '2020,Quel': 2 });
    expect(read(cube, ['year'])).toEqual({ 2020: 2, 2021: Number.NaN });
  });
});
