import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Order } from '../board/order';
import { keepValues } from '../conditions/keep-values';
import { axisPlace, axisValue, placesRise } from '../data/axis-place';
import type { Cube } from '../data/cube';
import { compareKeys } from '../data/values';
import { cube } from '../testing/fixtures';
import { seriesReadings } from '../testing/readings';
import { readingsOf } from './readings-of';
import { readingsInView } from './visible';

const year = { field: 'day', grain: 'year' as const };
const quay = { field: 'quay' };
const boats = { aggregate: 'sum' as const, field: 'boats' };
const rising = { by: 'key', direction: 'ascending' } as const;

const table = (readings: ReturnType<typeof readingsOf>) =>
  readings.category.map((key, i) => [
    readings.series[readings.seriesOf[i]!],
    String(key).slice(0, 4),
    readings.value[i],
  ]);

describe('readings of several series', () => {
  const spec = { by: year, split: quay, measure: boats, order: rising };
  it('run series after series, and in each from place to place', () => {
    const readings = readingsOf(cube, spec, []);
    expect(readings.series).toEqual(['Harl', 'Ostrin', 'Quel', null]);
    expect(table(readings)).toEqual([
      ['Harl', '2023', 20],
      ['Harl', '2024', Number.NaN],
      ['Ostrin', '2023', 20],
      ['Ostrin', '2024', 5],
      ['Quel', '2023', 30],
      ['Quel', '2024', 10],
      [null, '2023', 7],
    ]);
    expect([...readings.starts]).toEqual([0, 2, 4, 6, 7]);
    expect([...readings.place]).toEqual([0, 1, 0, 1, 0, 1, 0]);
  });
  it('places stand by what all series have together', () => {
    const readings = readingsOf(
      cube,
      {
        ...spec,
        by: { field: 'quay' },
        split: year,
        order: { by: 'value', direction: 'descending' },
      },
      [],
    );
    expect(readings.places).toEqual(['Quel', 'Ostrin', 'Harl', null]);
  });
  it('stand in an order of their own: by value, by what they sum up to, or as the rows name them', () => {
    const series = (order: Order) => readingsOf(cube, { ...spec, split: { ...quay, order } }, []).series;
    expect(series({ by: 'key', direction: 'descending' })).toEqual(['Quel', 'Ostrin', 'Harl', null]);
    expect(series({ by: 'value', direction: 'descending' })).toEqual(['Quel', 'Ostrin', 'Harl', null]);
    expect(series({ by: 'value', direction: 'ascending' })).toEqual([null, 'Harl', 'Ostrin', 'Quel']);
    const figures = (order: Order) =>
      new Map(
        table(readingsOf(cube, { ...spec, split: { ...quay, order } }, [])).map(
          ([name, at, value]) => [`${name} ${at}`, value] as const,
        ),
      );
    expect(figures({ by: 'value', direction: 'ascending' })).toEqual(figures(rising));
  });
  it('lose the series of which no row is kept', () => {
    const readings = readingsOf(cube, spec, [keepValues(year, ['2024-01-01'])]);
    expect(readings.series).toEqual(['Harl', 'Ostrin', 'Quel']);
  });
  it('carry further measures, beside the one that is shown', () => {
    const { others, length } = readingsOf(
      cube,
      {
        ...spec,
        others: [
          { aggregate: 'max', field: 'boats' },
          { aggregate: 'average', field: 'boats' },
        ],
      },
      [],
    );
    expect([...others.keys()]).toEqual(['max.boats', 'average.boats']);
    expect([...others.get('max.boats')!]).toEqual([10, Number.NaN, 9, 5, 15, 6, 7]);
    expect(others.get('average.boats')![4]).toBe(10);
    expect(length).toBe(7);
  });
  it('leave a place for periods without a reading, where asked for', () => {
    const gap: Cube = {
      cells: 3,
      dimensions: [
        {
          field: 'day',
          grain: 'month',
          values: ['2023-01-01', '2023-04-01', '2023-05-01'],
          codes: Int32Array.of(2, 0, -1),
        },
      ],
      partials: [{ aggregate: 'count', values: Float64Array.of(1, 2, 3) }],
    };
    const month = { field: 'day', grain: 'month' as const };
    const plain = { by: month, measure: { aggregate: 'count' as const }, order: rising };
    expect(readingsOf(gap, plain, []).places).toEqual(['2023-01-01', '2023-05-01', null]);
    const filled = readingsOf(gap, { ...plain, everyPeriod: true }, []);
    expect(filled.places).toEqual([
      '2023-01-01',
      '2023-02-01',
      '2023-03-01',
      '2023-04-01',
      '2023-05-01',
      null,
    ]);
    expect([...filled.place]).toEqual([0, 4, 5]);
    const falling = { ...plain, everyPeriod: true, order: { by: 'key', direction: 'descending' } as const };
    expect(readingsOf(gap, falling, []).places.slice(0, 2)).toEqual(['2023-05-01', '2023-04-01']);
  });
  it('are what plain grouping by both keys gives', () => {
    const cell = fc.record({
      a: fc.integer({ min: -1, max: 3 }),
      b: fc.integer({ min: -1, max: 3 }),
      n: fc.integer({ min: -9, max: 9 }),
    });
    const cells = fc.uniqueArray(cell, { selector: ({ a, b }) => `${a} ${b}` });
    const names = ['p', 'q', 'r', 's'];
    fc.assert(
      fc.property(cells, (list) => {
        const made: Cube = {
          cells: list.length,
          dimensions: [
            { field: 'a', values: names, codes: Int32Array.from(list, ({ a }) => a) },
            { field: 'b', values: names, codes: Int32Array.from(list, ({ b }) => b) },
          ],
          partials: [{ aggregate: 'sum', field: 'n', values: Float64Array.from(list, ({ n }) => n) }],
        };
        const readings = readingsOf(
          made,
          {
            by: { field: 'a' },
            split: { field: 'b' },
            measure: { aggregate: 'sum', field: 'n' },
            order: rising,
          },
          [],
        );
        const key = (code: number) => (code < 0 ? null : names[code]!);
        const expected = list
          .map(({ a, b, n }) => [key(b), key(a), n] as const)
          .sort((x, y) => compareKeys(x[0], y[0]) || compareKeys(x[1], y[1]));
        const actual = readings.category.map((each, i) => [
          readings.series[readings.seriesOf[i]!],
          each,
          readings.value[i],
        ]);
        expect(actual).toEqual(expected);
      }),
    );
  });
});

describe('a window over several series', () => {
  const all = seriesReadings({ a: [1, 2, 3, 4], b: [undefined, 6, undefined, 8] }, [10, 20, 30, 40]);
  it('takes its places out of each', () => {
    const seen = readingsInView(all, rising, { from: 20, to: 30, offset: 1, length: 2 });
    expect(seen.places).toEqual([20, 30]);
    expect([...seen.value]).toEqual([2, 3, 6]);
    expect([...seen.place]).toEqual([0, 1, 0]);
    expect([...seen.starts]).toEqual([0, 2, 3]);
  });
  it('in another order too', () => {
    const seen = readingsInView(
      all,
      { by: 'data', direction: 'ascending' },
      { from: 20, to: 40, offset: 1, length: 3 },
    );
    expect([...seen.value]).toEqual([2, 3, 4, 6, 8]);
    expect([...seen.place]).toEqual([0, 1, 2, 0, 2]);
  });
});

describe('a day along the places', () => {
  const months = ['2023-01-01', '2023-02-01', '2023-04-01'];
  const by = { field: 'day', grain: 'month' as const };
  it('lies within its period by its days', () => {
    expect(axisPlace('2023-01-01', 'from', months, by)).toBe(0);
    expect(axisPlace('2023-02-15', 'from', months, by)).toBe(1.5);
    expect(axisPlace('2023-02-28', 'to', months, by)).toBe(2);
    expect(axisPlace('2023-03-10', 'from', months, by)).toBe(2);
    expect(axisValue(1.5, months, by)).toBe('2023-02-15');
  });
  it('needs places that rise', () => {
    expect([months, [...months].reverse(), [null], []].map(placesRise)).toEqual([true, false, true, true]);
  });
});
