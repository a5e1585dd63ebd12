import { fullEngine } from '@sorvik/formula/full-engine';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { plainReadings } from '../data/readings';
import type { FilterWords } from '../data/row-filter';
import { english } from '../messages/locale';
import { joined, negated, partsOf, without } from './combined';
import type { ClaimWords, ConditionContext } from './condition-kind';
import { verdicts } from './condition-kind';
import { businessDayBefore } from './latest';
import { allPlaces, markRanks } from './rank';
import { type Condition, conditionKinds } from './registry';

const context = (values: (number | null)[], more: Partial<ConditionContext> = {}): ConditionContext => ({
  readings: plainReadings(
    values.map((_, i) => `2024-0${(i % 9) + 1}-01`),
    Float64Array.from(values, (value) => value ?? Number.NaN),
  ),
  by: { field: 'day', grain: 'month' },
  lever: () => undefined,
  positionOf: () => undefined,
  today: '2024-12-31',
  engine: fullEngine,
  ...more,
});
const evaluate = (condition: Condition, on: ConditionContext) =>
  conditionKinds.get(condition.kind).evaluate(condition, on);
const filterWords: FilterWords = {
  value: String,
  list: (items) => items.join(),
  allBut: (text) => `all but ${text}`,
};
const words: ClaimWords = {
  locale: english,
  measure: () => 'total boats',
  figures: (_measure, values) => values.map(String),
  key: String,
  lever: (id) => id,
};
const explain = (condition: Condition, on: ConditionContext, index: number) => {
  const kind = conditionKinds.get(condition.kind);
  return kind.claimText(kind.claim(condition, on, index), words);
};

const above = (limit: number): Condition => ({ kind: 'threshold', is: 'above', limit });
const top = (count: number): Condition => ({ kind: 'rank', count, side: 'highest', ties: 'share' });
const all = (...of: Condition[]): Condition => ({ kind: 'all', of });
const any = (...of: Condition[]): Condition => ({ kind: 'any', of });
const not = (of: Condition): Condition => ({ kind: 'not', of });
const { no, unknown, yes } = verdicts;

describe('all, any, not', () => {
  it('know nothing of a null, whichever way it is turned', () => {
    const on = context([1, 5, null]);
    expect([...evaluate(above(3), on).verdict]).toEqual([no, yes, unknown]);
    expect([...evaluate(not(above(3)), on).verdict]).toEqual([yes, no, unknown]);
    expect([...evaluate(all(above(3), above(0)), on).verdict]).toEqual([no, yes, unknown]);
    expect([...evaluate(any(above(3), above(0)), on).verdict]).toEqual([yes, yes, unknown]);
  });
  it('leave out what rests', () => {
    const on = context([1, 5]);
    const resting: Condition = { kind: 'member', lever: 'gone' };
    expect([...evaluate(all(resting, above(3)), on).verdict]).toEqual([no, yes]);
    expect(evaluate(all(resting, { kind: 'focus' }), on).active).toBe(false);
  });
  it('follow three-valued logic, however deep they are nested', () => {
    const leaf = fc.oneof(
      fc.integer({ min: -3, max: 3 }).map(above),
      fc.integer({ min: 0, max: 4 }).map(top),
    );
    const { tree } = fc.letrec<{ tree: Condition }>((tie) => ({
      tree: fc.oneof(
        { maxDepth: 3 },
        leaf,
        fc.array(tie('tree'), { minLength: 1, maxLength: 3 }).map((of) => all(...of)),
        fc.array(tie('tree'), { minLength: 1, maxLength: 3 }).map((of) => any(...of)),
        tie('tree').map(not),
      ),
    }));
    const values = fc.array(fc.option(fc.integer({ min: -4, max: 4 })), { maxLength: 8 });
    /** SQL's AND, OR and NOT over true, false and null. */
    const naive = (condition: Condition, list: (number | null)[], i: number): boolean | null => {
      const value = list[i]!;
      if (condition.kind === 'not') {
        const inner = naive(condition.of, list, i);
        return inner === null ? null : !inner;
      }
      if (condition.kind === 'all' || condition.kind === 'any') {
        const inner = condition.of.map((each) => naive(each, list, i));
        const decides = condition.kind === 'any';
        if (inner.includes(decides)) return decides;
        return inner.includes(null) ? null : !decides;
      }
      if (value === null) return null;
      if (condition.kind === 'threshold') return value > (condition.limit as number);
      if (condition.kind === 'rank')
        return list.filter((other) => other !== null && other > value).length < (condition.count as number);
      throw new Error('not in this test');
    };
    fc.assert(
      fc.property(tree, values, (condition, list) => {
        const expected = list.map((_, i) => {
          const is = naive(condition, list, i);
          return is === null ? unknown : is ? yes : no;
        });
        expect([...evaluate(condition, context(list)).verdict]).toEqual(expected);
      }),
    );
  });
  it('are joined, taken apart and turned round', () => {
    const three = joined(joined(above(1), top(2)), above(3));
    expect(three).toEqual(all(above(1), top(2), above(3)));
    expect(partsOf(three)).toHaveLength(3);
    expect(without(three, 1)).toEqual(all(above(1), above(3)));
    expect(without(without(three, 1), 0)).toEqual(above(3));
    expect(joined(any(above(1), top(2)), above(3))).toEqual(any(above(1), top(2), above(3)));
    expect(negated(negated(three))).toEqual(three);
  });
  it('keep the rows that the inner one would not', () => {
    const lever = {
      kind: 'pick',
      id: 'p',
      name: 'P',
      dataset: 'd',
      field: 'quay',
      start: [],
      clearing: 'empty',
    } as const;
    const on = context([], { lever: () => lever as never, positionOf: () => ['Quel'] });
    const filter = conditionKinds.get('not').rowFilter(not({ kind: 'member', lever: 'p' }), on)!;
    expect([filter.keeps('Quel'), filter.keeps('Harl'), filter.text(filterWords)]).toEqual([
      false,
      true,
      'all but Quel',
    ]);
  });
});

describe('focus', () => {
  it('lights what is pointed at, and rests otherwise', () => {
    expect(evaluate({ kind: 'focus' }, context([1, 2], { focus: 1 }))).toEqual({
      active: true,
      verdict: Uint8Array.of(no, yes),
    });
    for (const focus of [-1, 7])
      expect(evaluate({ kind: 'focus' }, context([1, 2], { focus })).active).toBe(false);
  });
});

describe('latest', () => {
  const litAt = (condition: Condition, on: ConditionContext) => {
    const { verdict, note } = evaluate(condition, on);
    return [on.readings.category.filter((_, i) => verdict[i] === yes), note?.(english)];
  };
  it('passes over periods without a value, in whatever order they stand', () => {
    const on = context([1, 2, null]);
    expect(litAt({ kind: 'latest', of: 'view' }, on)).toEqual([['2024-02-01'], undefined]);
    const turned = {
      ...on,
      readings: plainReadings(['2024-03-01', null, '2024-01-01'], Float64Array.of(Number.NaN, 5, 5)),
    };
    expect(litAt({ kind: 'latest', of: 'view' }, turned)).toEqual([['2024-01-01'], undefined]);
    expect(litAt({ kind: 'latest', of: 'view' }, context([null]))).toEqual([[], 'no period has a value']);
  });
  it('of the data can be out of view', () => {
    const whole = context([1, 2, 3]).readings;
    expect(litAt({ kind: 'latest', of: 'data' }, context([1, 2], { whole: () => whole }))).toEqual([
      [],
      'the latest one is not in view',
    ]);
    expect(litAt({ kind: 'latest', of: 'data' }, context([1, 2, null], { whole: () => whole }))).toEqual([
      ['2024-03-01'],
      undefined,
    ]);
  });
  it('business day passes over weekends and holidays', () => {
    expect(businessDayBefore('2024-03-04', [])).toBe('2024-03-01');
    expect(businessDayBefore('2024-03-05', [])).toBe('2024-03-04');
    expect(businessDayBefore('2024-03-03', [])).toBe('2024-03-01');
    expect(businessDayBefore('2024-03-04', ['2024-03-01', '2024-02-29'])).toBe('2024-02-28');
    const clock = { kind: 'clock', id: 'now', name: 'Now', unit: 'day', zone: 'UTC', clearing: 'start' };
    const on = context([1, 2], {
      lever: () => clock as never,
      positionOf: () => ({ now: '2024-02-01T09:00:00', hold: null }),
    });
    expect(litAt({ kind: 'latest', of: 'business day', clock: 'now' }, on)).toEqual([
      ['2024-01-01'],
      undefined,
    ]);
  });
  it('business day of what is in view, whatever the data go on to', () => {
    // A Friday and a Saturday are shown, of data that go on to a Tuesday.
    const days = (...list: string[]) =>
      plainReadings(
        list,
        Float64Array.from(list, () => 1),
      );
    const on = {
      ...context([]),
      by: { field: 'day', grain: 'day' as const },
      readings: days('2024-03-01', '2024-03-02'),
      whole: () => days('2024-03-01', '2024-03-02', '2024-03-05'),
    };
    expect(litAt({ kind: 'latest', of: 'business day in view' }, on)[0]).toEqual(['2024-03-01']);
    expect(litAt({ kind: 'latest', of: 'business day' }, on)[0]).toEqual([]);
  });
});

describe('why', () => {
  const on = context([10, 30, 30, null, 5]);
  it('names the rank, ties and what is missing', () => {
    expect(explain(top(2), on, 1)).toBe(
      'rank 1 of 4 from the highest by total boats (30, shared by 2), within 2',
    );
    expect(explain(top(2), on, 4)).toBe('rank 4 of 4 from the highest by total boats (5); the count is 2');
    expect(explain({ ...top(2), ties: 'first' } as Condition, on, 2)).toBe(
      'rank 2 of 4 from the highest by total boats (30, the 2nd of 2 alike), within 2',
    );
    expect(explain({ ...top(1), ties: 'first' } as Condition, on, 2)).toBe(
      'rank 2 of 4 from the highest by total boats (30, the 2nd of 2 alike); the count is 1',
    );
    expect(explain(top(2), on, 3)).toBe('it has no value, so it has no rank');
  });
  it('names the limit, and the range of shares', () => {
    expect(explain(above(20), on, 0)).toBe('10 is not above 20');
    expect(explain({ kind: 'threshold', is: 'between', limit: 5, upper: 20 }, on, 0)).toBe(
      '10 is at or above 5 and below 20',
    );
    expect(explain({ kind: 'threshold', is: 'between', limit: 5, upper: 10 }, on, 0)).toBe(
      '10 is not below 10',
    );
    expect(explain({ kind: 'threshold', is: 'between', limit: 20, upper: 30 }, on, 0)).toBe(
      '10 is not at or above 20',
    );
    expect(explain({ kind: 'threshold', is: 'outside', limit: 20, upper: 30 }, on, 0)).toBe('10 is below 20');
    expect(explain({ kind: 'position', is: 'at or above', limit: 0.8 }, on, 1)).toBe(
      '30 is at or above 25 (80.0% of the range 5 to 30)',
    );
  });
  it('of several names each that has a say', () => {
    expect(explain(all(above(20), top(1)), on, 0)).toBe(
      '10 is not above 20 and rank 3 of 4 from the highest by total boats (10); the count is 1',
    );
  });
});

describe('workings', () => {
  it('rank every reading as a count of better ones does, and as the marks are', () => {
    const values = fc.array(fc.option(fc.integer({ min: -5, max: 5 })), { maxLength: 20 });
    fc.assert(
      fc.property(values, fc.constantFrom(1, -1) as fc.Arbitrary<1 | -1>, fc.nat(8), (list, sign, count) => {
        const numbers = Float64Array.from(list, (value) => value ?? Number.NaN);
        const places = allPlaces(numbers, sign);
        const marks = new Uint8Array(list.length);
        markRanks(numbers, count, sign, 'share', marks);
        list.forEach((value, i) => {
          if (value === null) expect(places[i]).toBeNaN();
          else {
            const better = list.filter((other) => other !== null && sign * other > sign * value).length;
            expect(places[i]).toBe(better + 1);
            expect(marks[i] === yes).toBe(places[i]! <= count);
          }
        });
      }),
    );
  });
  it('are plain columns, one for each step', () => {
    const columns = (condition: Condition) =>
      (conditionKinds.get(condition.kind).workings?.(condition, context([5, 10, null, 25])) ?? []).map(
        ({ name, values }) => [name, Array.from(values)],
      );
    expect(columns(all(top(1), above(7)))).toEqual([
      ['rank', [3, 2, Number.NaN, 1]],
      ['count', [1, 1, 1, 1]],
      ['limit', [7, 7, 7, 7]],
    ]);
    expect(columns({ kind: 'position', is: 'below', limit: 0.5 })).toEqual([
      ['limit', [15, 15, 15, 15]],
      ['share of range', [0, 0.25, Number.NaN, 1]],
    ]);
  });
});
