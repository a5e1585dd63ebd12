import { fullEngine } from '@sorvik/formula/full-engine';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { english } from '../messages/locale';
import { positionsAt, quays } from '../testing/fixtures';
import { seriesReadings } from '../testing/readings';
import type { ClaimWords, ConditionContext } from './condition-kind';
import { verdicts } from './condition-kind';
import { type Condition, conditionKinds } from './registry';
import { stretchNames } from './segment';

const readings = seriesReadings({ a: [5, 9, 7], b: [6, 2, 7], c: [1, null, undefined] });
const context = (more: Partial<ConditionContext> = {}): ConditionContext => ({
  readings,
  by: { field: 'n' },
  split: { field: 'quay' },
  lever: () => undefined,
  positionOf: () => undefined,
  today: '2024-12-31',
  engine: fullEngine,
  ...more,
});
const lit = (condition: Condition, on = context()) => {
  const { verdict, note } = conditionKinds.get(condition.kind).evaluate(condition, on);
  return [[...verdict].flatMap((each, i) => (each === verdicts.yes ? [i] : [])), note?.(english)];
};
const words: ClaimWords = {
  locale: english,
  measure: () => 'boats',
  figures: (_measure, values) => values.map(String),
  key: (key, of) => (of ? `series ${key}` : `place ${key}`),
  lever: (id) => id,
};
const explain = (condition: Condition, index: number, on = context()) => {
  const kind = conditionKinds.get(condition.kind);
  return kind.claimText(kind.claim(condition, on, index), words);
};
const top = (count: number, within?: 'series' | 'category'): Condition => ({
  kind: 'rank',
  count,
  side: 'highest',
  ties: 'share',
  ...(within ? { within } : {}),
});

describe('rank among several series', () => {
  it('counts in the whole chart, in each series, or at each category', () => {
    expect(lit(top(1))).toEqual([[1], undefined]);
    expect(lit(top(1, 'series'))).toEqual([[1, 5, 6], undefined]);
    expect(lit(top(1, 'category'))).toEqual([[1, 2, 3, 5], 'ties at the 1st place in 1 of them']);
    expect(lit(top(0, 'series'))).toEqual([[], 'the count is 0']);
  });
  it('says where a place was counted', () => {
    expect(explain(top(1, 'series'), 5)).toBe(
      'rank 1 of 3 in series b from the highest by boats (7), within 1',
    );
    expect(explain(top(1, 'category'), 0)).toBe(
      'rank 2 of 3 at place 0 from the highest by boats (5); the count is 1',
    );
  });
  it('shows the places in its workings', () => {
    const columns = conditionKinds.get('rank').workings!(top(1, 'category'), context());
    expect(columns.map(({ name, values }) => [name, ...Array.from(values)])).toEqual([
      ['rank', 2, 1, 1, 1, 2, 1, 3, Number.NaN],
      ['count', 1, 1, 1, 1, 1, 1, 1, 1],
    ]);
  });
  it('goes by another measure', () => {
    const cars = { aggregate: 'sum', field: 'cars' } as const;
    const others = new Map([['sum.cars', Float64Array.of(1, 1, 8, 1, 1, 1, 1, 1)]]);
    const on = context({ readings: { ...readings, others } });
    expect(lit({ ...top(1), measure: cars } as Condition, on)[0]).toEqual([2]);
    expect(
      lit({ kind: 'threshold', is: 'at or above', limit: { of: 'median' }, measure: cars }, on)[0],
    ).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
    expect(lit({ kind: 'position', is: 'above', limit: 0.5, measure: cars }, on)[0]).toEqual([2]);
    // Readings that were made without it have nothing to compare.
    expect(lit({ ...top(1), measure: cars } as Condition)[0]).toEqual([]);
  });
});

it('a pick of series lights whole series, and says so', () => {
  const on = context({ lever: () => quays, positionOf: positionsAt([quays], { quays: ['b', null] }) });
  expect(lit({ kind: 'member', lever: 'quays' }, on)[0]).toEqual([3, 4, 5]);
  expect(explain({ kind: 'member', lever: 'quays' }, 0, on)).toBe('series a is not in quays');
  expect(
    conditionKinds
      .get('member')
      .unfit({ kind: 'member', lever: 'quays' }, on, () => quays, { field: () => undefined } as never),
  ).toBeNull();
});

it('what is pointed at lights a mark, its series, or its category', () => {
  const at = context({ focus: 4 });
  expect(lit({ kind: 'focus' }, at)[0]).toEqual([4]);
  expect(lit({ kind: 'focus', of: 'series' }, at)[0]).toEqual([3, 4, 5]);
  expect(lit({ kind: 'focus', of: 'category' }, at)[0]).toEqual([1, 4, 7]);
  expect(lit({ kind: 'focus' }, context({ focus: 99 }))[0]).toEqual([]);
  expect(explain({ kind: 'focus', of: 'series' }, 5, at)).toBe('its series is pointed at');
  expect(explain({ kind: 'focus', of: 'series' }, 0, at)).toBe('another series is pointed at');
});

describe('outside two limits', () => {
  const outside: Condition = { kind: 'threshold', is: 'outside', limit: 5, upper: 7 };
  it('is below the lower one, and from the upper one on', () => {
    expect(lit(outside)[0]).toEqual([1, 2, 4, 5, 6]);
    const { variant } = conditionKinds.get('threshold').evaluate(outside, context());
    expect([1, 2, 4, 5, 6].map((i) => variant![i])).toEqual([1, 1, 0, 1, 0]);
    expect(conditionKinds.get('threshold').variants!(outside, {} as never)).toEqual(['below', 'at or above']);
  });
  it('is the opposite of between, for every value there is', () => {
    const between = { ...outside, is: 'between' } as Condition;
    expect(lit({ kind: 'not', of: between })[0]).toEqual(lit(outside)[0]);
    expect(explain(outside, 0)).toBe('5 is not below 5 and not at or above 7');
  });
});

describe('stretches between events', () => {
  const events = [
    { id: 'p', name: 'the pier', date: '2021-03-01' },
    { id: 's', name: 'the storm', date: '2021-02-15' },
  ];
  const days = ['2021-02-01', '2021-02-14', '2021-02-15', '2021-03-01', '2021-04-01'];
  const on = context({
    readings: seriesReadings({ a: days.map((_, i) => i) }, days),
    by: { field: 'day', grain: 'day' },
    events,
  });
  it('hold each day once; the day of an event belongs to the later one', () => {
    const { variant, along } = conditionKinds.get('segment').evaluate({ kind: 'segment' }, on);
    expect([...variant!]).toEqual([0, 0, 1, 2, 2]);
    expect(along!.cuts).toEqual([2, 3]);
    expect(lit({ kind: 'segment', only: [1] }, on)[0]).toEqual([2]);
  });
  it('have names, one more than there are events', () => {
    expect(stretchNames({ events, locale: english })).toEqual([
      'before the storm',
      'from the storm to the pier',
      'from the pier on',
    ]);
    expect(stretchNames({ events: [], locale: english })).toEqual([]);
    expect(explain({ kind: 'segment' }, 2, on)).toBe(
      'place 2021-02-15 is from the storm to the pier (15 Feb 2021)',
    );
  });
  it('rest without events, and know nothing of what has no date', () => {
    expect(conditionKinds.get('segment').evaluate({ kind: 'segment' }, context()).active).toBe(false);
    const missing = seriesReadings({ a: [1] }, [null]);
    expect([
      ...conditionKinds.get('segment').evaluate({ kind: 'segment' }, { ...on, readings: missing }).verdict,
    ]).toEqual([verdicts.unknown]);
  });
  it('any day is in the stretch that counting events gives', () => {
    const day = fc.integer({ min: 1, max: 28 }).map((n) => `2021-02-${String(n).padStart(2, '0')}`);
    fc.assert(
      fc.property(fc.array(day, { minLength: 1, maxLength: 6 }), fc.uniqueArray(day), (dates, axis) => {
        const sorted = [...axis].sort();
        const { variant } = conditionKinds.get('segment').evaluate(
          { kind: 'segment' },
          {
            ...on,
            readings: seriesReadings({ a: sorted.map(() => 1) }, sorted),
            events: dates.map((date, i) => ({ id: `e${i}`, name: 'e', date })),
          },
        );
        expect([...variant!]).toEqual(sorted.map((each) => dates.filter((date) => date <= each).length));
      }),
    );
  });
});
