import { describe, expect, it } from 'vitest';
import type { Measure } from '../board/measure';
import type { Order } from '../board/order';
import { keepValues } from '../conditions/keep-values';
import { chart, cube } from '../testing/fixtures';
import { readingsOf } from './readings-of';

const read = (
  measure: Measure,
  order: Order = { by: 'key', direction: 'ascending' },
  values: string[] = [],
) => {
  const filters = values.length ? [keepValues({ field: 'day', grain: 'year' }, values)] : [];
  const { category, value } = readingsOf(cube, { by: chart.by, measure, order }, filters);
  return category.map((key, i) => [key, value[i]]);
};

describe('measures', () => {
  it.each<[Measure, unknown[]]>([
    [
      { aggregate: 'sum', field: 'boats' },
      [
        ['Harl', 20],
        ['Ostrin', 25],
        ['Quel', 40],
        [null, 7],
      ],
    ],
    [
      { aggregate: 'average', field: 'boats' },
      [
        ['Harl', 10],
        ['Ostrin', 5],
        ['Quel', 8],
        [null, 7],
      ],
    ],
    [
      { aggregate: 'count', field: 'boats' },
      [
        ['Harl', 2],
        ['Ostrin', 5],
        ['Quel', 5],
        [null, 1],
      ],
    ],
    [
      { aggregate: 'count' },
      [
        ['Harl', 4],
        ['Ostrin', 5],
        ['Quel', 5],
        [null, 1],
      ],
    ],
    [
      { aggregate: 'min', field: 'boats' },
      [
        ['Harl', 10],
        ['Ostrin', 2],
        ['Quel', 4],
        [null, 7],
      ],
    ],
    [
      { aggregate: 'max', field: 'boats' },
      [
        ['Harl', 10],
        ['Ostrin', 9],
        ['Quel', 15],
        [null, 7],
      ],
    ],
  ])('%o', (measure, expected) => {
    expect(read(measure)).toEqual(expected);
  });

  it('are null over nothing but nulls, and their categories stay', () => {
    expect(read({ aggregate: 'sum', field: 'boats' }, undefined, ['2024-01-01'])).toEqual([
      ['Harl', Number.NaN],
      ['Ostrin', 5],
      ['Quel', 10],
    ]);
    expect(read({ aggregate: 'average', field: 'boats' }, undefined, ['2024-01-01'])[0]).toEqual([
      'Harl',
      Number.NaN,
    ]);
  });
});

describe('order', () => {
  const sum: Measure = { aggregate: 'sum', field: 'boats' };
  const keys = (order: Order, values?: string[]) => read(sum, order, values).map(([key]) => key);

  it('is by value, nulls last either way', () => {
    expect(keys({ by: 'value', direction: 'descending' })).toEqual(['Quel', 'Ostrin', 'Harl', null]);
    expect(keys({ by: 'value', direction: 'ascending' })).toEqual([null, 'Harl', 'Ostrin', 'Quel']);
    expect(keys({ by: 'value', direction: 'ascending' }, ['2024-01-01'])).toEqual(['Ostrin', 'Quel', 'Harl']);
  });
  it('is by key, the missing one last either way', () => {
    expect(keys({ by: 'key', direction: 'descending' })).toEqual(['Quel', 'Ostrin', 'Harl', null]);
  });
  it("is the data's own", () => {
    expect(keys({ by: 'data', direction: 'ascending' })).toEqual(['Harl', 'Ostrin', 'Quel', null]);
    expect(keys({ by: 'data', direction: 'descending' })).toEqual([null, 'Quel', 'Ostrin', 'Harl']);
  });
  it('breaks ties by key', () => {
    const tied = readingsOf(
      cube,
      {
        by: chart.by,
        measure: { aggregate: 'count', field: 'boats' },
        order: { by: 'value', direction: 'descending' },
      },
      [],
    );
    expect(tied.category).toEqual(['Ostrin', 'Quel', 'Harl', null]);
  });
});

it('filters drop missing keys, and categories without rows', () => {
  const none = readingsOf(cube, chart, [keepValues({ field: 'quay' }, ['Harl'])]);
  expect(none.category).toEqual(['Harl']);
  expect(readingsOf(cube, chart, [keepValues({ field: 'quay' }, ['Nowhere'])]).length).toBe(0);
});

it('says what a cube lacks', () => {
  expect(() => readingsOf(cube, { ...chart, by: { field: 'berth' } }, [])).toThrow('without berth');
  expect(() => readingsOf(cube, chart, [keepValues({ field: 'berth' }, [1])])).toThrow('without berth');
});
