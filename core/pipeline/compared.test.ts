import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Compare } from '../board/compare';
import { allSteps } from '../data/all-steps';
import { plainReadings } from '../data/readings';
import { seriesReadings } from '../testing/readings';
import { comparedReadings, plainKey } from './compared';

const list = (values: (number | null)[]) => Float64Array.from(values, (value) => value ?? Number.NaN);
const routes = plainReadings(['a', 'b', 'c', 'd'], list([10, 20, null, 0]));
const compared = (compare: Compare, reference = 'a', readings = routes, whole = 100) =>
  [...allSteps(comparedReadings(readings, compare, 'month', reference, () => whole)).value].map((value) =>
    Number.isNaN(value) ? null : value,
  );

describe('readings against one that a lever names', () => {
  it.each<[Compare['as'], (number | null)[]]>([
    ['difference', [0, 10, null, -10]],
    ['ratio', [0, 1, null, -1]],
    ['percent', [0, 1, null, -1]],
  ])('%s', (as, expected) => {
    expect(compared({ with: 'touched', lever: 'x', as })).toEqual(expected);
  });
  it('a missing one counts as zero where that is said, and nothing is divided by zero', () => {
    expect(compared({ with: 'touched', lever: 'x', as: 'difference', missing: 'zero' })).toEqual([
      0, 10, -10, -10,
    ]);
    expect(compared({ with: 'touched', lever: 'x', as: 'ratio' }, 'd')).toEqual([null, null, null, null]);
    expect(compared({ with: 'touched', lever: 'x', as: 'difference' }, 'c')).toEqual([
      null,
      null,
      null,
      null,
    ]);
    expect(compared({ with: 'touched', lever: 'x', as: 'difference', missing: 'zero' }, 'c')).toEqual([
      10, 20, 0, 0,
    ]);
  });
  it('keeps the figures as they are beside', () => {
    const { others } = allSteps(
      comparedReadings(routes, { with: 'average', as: 'difference' }, undefined, undefined, () => 0),
    );
    expect(others.get(plainKey)).toBe(routes.value);
  });
});

it('against the average of those that have a value, and against the whole', () => {
  expect(compared({ with: 'average', as: 'difference' })).toEqual([0, 10, null, -10]);
  expect(compared({ with: 'whole', as: 'percent' })).toEqual([-0.9, -0.8, null, -1]);
});

describe('against earlier periods', () => {
  const months = ['2023-01-01', '2023-02-01', '2023-04-01', '2024-01-01', '2024-02-01'];
  const over = plainReadings(months, list([10, 15, 30, 20, null]));
  it('the one before, where there is one', () => {
    expect(compared({ with: 'previous', as: 'difference' }, '', over)).toEqual([null, 5, null, null, null]);
  });
  it('the same a year before', () => {
    expect(compared({ with: 'year', as: 'percent' }, '', over)).toEqual([null, null, null, 1, null]);
    expect(compared({ with: 'year', as: 'difference', missing: 'zero' }, '', over)).toEqual([
      null,
      null,
      null,
      10,
      -15,
    ]);
  });
  it('of a week the same week of the ISO year before, which may have no 53rd', () => {
    const monday = (year: number, week: number) => {
      const first = Date.UTC(year, 0, 4);
      const day = (new Date(first).getUTCDay() + 6) % 7;
      return new Date(first - day * 86_400_000 + (week - 1) * 604_800_000).toISOString().slice(0, 10);
    };
    for (let year = 2015; year <= 2027; year++)
      for (const week of [1, 2, 26, 51, 52]) {
        const weeks = plainReadings([monday(year - 1, week), monday(year, week)], list([3, 10]));
        const { value } = allSteps(
          comparedReadings(weeks, { with: 'year', as: 'difference' }, 'week', undefined, () => 0),
        );
        expect(value[1], `${year} week ${week}`).toBe(7);
      }
    // 2020 has a 53rd week, 2019 has none.
    const long = plainReadings([monday(2019, 52), monday(2020, 1), monday(2020, 53)], list([1, 2, 4]));
    const { value } = allSteps(
      comparedReadings(long, { with: 'year', as: 'difference' }, 'week', undefined, () => 0),
    );
    expect([...value].every(Number.isNaN)).toBe(true);
  });
  it('that filters leave out, where they are there besides', () => {
    const kept = plainReadings(['2023-02-01', '2023-04-01'], list([15, 30]));
    const found = (by: Compare['with']) =>
      allSteps(comparedReadings(kept, { with: by, as: 'difference' }, 'month', undefined, () => 0, over))
        .value[0];
    expect(found('previous')).toBe(5);
    const series = seriesReadings({ b: [15], c: [7] }, ['2023-02-01']);
    const all = seriesReadings({ a: [1, 2], b: [10, 15], d: [3, 3] }, ['2023-01-01', '2023-02-01']);
    const { value } = allSteps(
      comparedReadings(series, { with: 'previous', as: 'difference' }, 'month', undefined, () => 0, all),
    );
    expect([...value]).toEqual([5, Number.NaN]);
  });
  it('of the 29th of February the 28th', () => {
    const days = plainReadings(['2023-02-28', '2024-02-29'], list([4, 6]));
    const { value } = allSteps(
      comparedReadings(days, { with: 'year', as: 'difference' }, 'day', undefined, () => 0),
    );
    expect(value[1]).toBe(2);
  });
});

it('differences and the reference give the figures back', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: -1000, max: 1000 }), { minLength: 1, maxLength: 30 }),
      fc.nat(),
      (values, pick) => {
        const keys = values.map((_, i) => `k${i}`);
        const reference = pick % values.length;
        const readings = plainReadings(keys, list(values));
        const { value } = allSteps(
          comparedReadings(
            readings,
            { with: 'touched', lever: 'x', as: 'difference' },
            undefined,
            keys[reference],
            () => 0,
          ),
        );
        expect([...value].map((difference) => difference + values[reference]!)).toEqual(values);
      },
    ),
  );
});
