import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, periodAt, periodOrdinal } from '../data/periods';
import { plainReadings, type Readings } from '../data/readings';
import type { KeyValue } from '../data/values';
import { stretchOfInterval, valueAtPlace } from '../pipeline/band-span';
import { readingsInView } from '../pipeline/visible';

const readingsOf = (category: KeyValue[]): Readings =>
  plainReadings(
    category,
    Float64Array.from(category, (_, i) => i),
  );
const band = (count: number) => ({ direction: 'x' as const, start: 50, step: 10, count });
const month = { field: 'day', grain: 'month' as const };

describe('a span on the bands of a chart', () => {
  const quarter = readingsOf(['2021-01-01', '2021-02-01', '2021-03-01', null]);
  const place = (from: string, to: string) => stretchOfInterval({ from, to }, band(4), quarter.places, month);
  it('begins and ends within a period by its days', () => {
    expect(place('2021-01-01', '2021-01-31')).toEqual({ start: 50, end: 60 });
    expect(place('2021-02-15', '2021-02-28')).toEqual({ start: 65, end: 70 });
    expect(place('2020-01-01', '2021-03-31')).toEqual({ start: 50, end: 80 });
  });
  it('jumps over periods that are not in the data', () => {
    const gap = readingsOf(['2021-01-01', '2021-04-01']);
    expect(stretchOfInterval({ from: '2021-02-10', to: '2021-03-10' }, band(2), gap.places, month)).toEqual({
      start: 60,
      end: 60,
    });
  });
  it('covers whole bands of numbers', () => {
    const numbers = readingsOf([1, 3, 5, 7]);
    expect(stretchOfInterval({ from: 3, to: 5 }, band(4), numbers.places, { field: 'n' })).toEqual({
      start: 60,
      end: 80,
    });
  });
  it('finds the day under a place, never outside the data', () => {
    const at = (px: number) => valueAtPlace(px, band(4), quarter.places, month);
    expect([at(-99), at(50), at(65), at(79.99), at(9999)]).toEqual([
      '2021-01-01',
      '2021-01-01',
      '2021-02-15',
      '2021-03-31',
      '2021-03-31',
    ]);
    expect(valueAtPlace(60, band(0), readingsOf([]).places, month)).toBeNull();
  });
  it('a day placed and found again is the same day', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 700 }), (offset) => {
        const first = periodOrdinal('2021-01-01', 'month');
        const two = readingsOf(Array.from({ length: 24 }, (_, i) => periodAt(first + i, 'month')));
        const day = addDays('2021-01-01', offset);
        const { start, end } = stretchOfInterval({ from: day, to: day }, band(24), two.places, month);
        expect(end).toBeGreaterThan(start);
        expect(valueAtPlace((start + end) / 2, band(24), two.places, month)).toBe(day);
      }),
    );
  });
});

describe('readings in view', () => {
  it('are those a plain filter keeps, in any order', () => {
    const key = fc.integer({ min: 0, max: 40 });
    fc.assert(
      fc.property(
        fc.uniqueArray(key),
        key,
        key,
        fc.constantFrom('ascending', 'descending'),
        fc.boolean(),
        fc.boolean(),
        (keys, a, b, direction, byKey, missing) => {
          const sorted = [...keys].sort((x, y) => (direction === 'ascending' ? x - y : y - x));
          const category: KeyValue[] = byKey ? sorted : [...keys];
          if (missing) category.push(null);
          const [from, to] = [Math.min(a, b), Math.max(a, b)];
          const order = { by: byKey ? 'key' : 'data', direction } as const;
          const all = readingsOf(category);
          // In the chart's own order, places are counted as they stand.
          const pages = to;
          const offset = Math.max(0, Math.min(from, keys.length - pages));
          const stretch = { from, to, offset: from, length: pages };
          const { category: seen, value, length } = readingsInView(all, order, stretch);
          const expected = category.flatMap((each, i) => {
            if (each === null) return [];
            const inView = byKey
              ? Number(each) >= from && Number(each) <= to
              : i >= offset && i < offset + pages;
            return inView ? [[each, i]] : [];
          });
          expect(seen.map((each, i) => [each, value[i]])).toEqual(expected);
          expect(length).toBe(expected.length);
        },
      ),
    );
  });
});
