import { fullEngine } from '@sorvik/formula/full-engine';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Category } from '../board/category';
import type { ReadingFigure } from '../board/figure';
import { plainReadings } from '../data/readings';
import type { KeyValue } from '../data/values';
import type { LimitsLever } from '../levers/limits';
import { localFromText } from '../levers/zone-time';
import { english } from '../messages/locale';
import { stretch } from '../testing/fixtures';
import { isNow } from './clock';
import { type ConditionContext, verdicts } from './condition-kind';
import { shareOfRange } from './figures';
import { rank } from './rank';
import { readingFigure } from './reading-figure';
import { span, spanMeeting } from './span';
import { type comparisons, meets, position, threshold } from './threshold';

const readings = (values: (number | null)[], category?: KeyValue[]) =>
  plainReadings(
    category ?? values.map((_, i) => `quay ${i}`),
    Float64Array.from(values, (value) => value ?? Number.NaN),
  );
const context = (values: (number | null)[], more: Partial<ConditionContext> = {}): ConditionContext => ({
  readings: readings(values),
  by: { field: 'quay' },
  lever: () => undefined,
  positionOf: () => undefined,
  today: '2024-12-31',
  engine: fullEngine,
  ...more,
});
const lit = (list: Uint8Array) => [...list].flatMap((is, i) => (is === verdicts.yes ? [i] : []));
const figures = fc.array(fc.option(fc.integer({ min: -20, max: 20 }), { freq: 5 }), { maxLength: 30 });

describe('rank', () => {
  const top = (
    values: (number | null)[],
    count: number,
    side: 'highest' | 'lowest' = 'highest',
    ties: 'share' | 'first' = 'share',
  ) => {
    const { verdict: marks, note } = rank.evaluate({ kind: 'rank', count, side, ties }, context(values));
    return [lit(marks), note?.(english)];
  };
  it('lights the highest or the lowest, never nulls', () => {
    expect(top([5, 9, null, 7], 2)).toEqual([[1, 3], undefined]);
    expect(top([5, 9, null, 7], 1, 'lowest')).toEqual([[0], undefined]);
  });
  it('shares a place, or gives it to the first', () => {
    expect(top([9, 4, 4, 4, 1], 2)).toEqual([[0, 1, 2, 3], 'a tie at the 2nd place']);
    expect(top([9, 4, 4, 4, 1], 2, 'highest', 'first')).toEqual([[0, 1], undefined]);
    expect(top([9, 9, 4], 2)).toEqual([[0, 1], undefined]);
  });
  it('knows 0, more than there are, all alike and none at all', () => {
    expect(top([1, 2], 0)).toEqual([[], 'the count is 0']);
    expect(top([1, null, 2], 5)).toEqual([[0, 2], 'there are only 2']);
    expect(top([3, 3, 3], 1)).toEqual([[0, 1, 2], 'a tie at the 1st place']);
    expect(top([], 3)).toEqual([[], 'there are only 0']);
    expect(top([null, null], 1)).toEqual([[], 'there are only 0']);
    expect(top([4, 5], -2)).toEqual([[], 'the count is 0']);
  });
  it('says what counting the better ones says', () => {
    fc.assert(
      fc.property(figures, fc.integer({ min: -1, max: 12 }), fc.boolean(), (values, count, high) => {
        const better = (a: number, b: number) => (high ? a > b : a < b);
        const expected = values.flatMap((value, i) => {
          if (value === null) return [];
          const ahead = values.filter((other) => other !== null && better(other, value)).length;
          return ahead < count ? [i] : [];
        });
        expect(top(values, count, high ? 'highest' : 'lowest')[0]).toEqual(expected);
      }),
    );
  });
  it('with first by order says what a stable sort says', () => {
    fc.assert(
      fc.property(figures, fc.integer({ min: 0, max: 12 }), (values, count) => {
        const sorted = values
          .map((value, i) => ({ value, i }))
          .filter((each): each is { value: number; i: number } => each.value !== null)
          .sort((a, b) => b.value - a.value || a.i - b.i);
        const expected = sorted
          .slice(0, count)
          .map(({ i }) => i)
          .sort((a, b) => a - b);
        expect(top(values, count, 'highest', 'first')[0]).toEqual(expected);
      }),
    );
  });
});

const corridor: LimitsLever = {
  kind: 'limits',
  id: 'corridor',
  name: 'Corridor',
  as: 'share',
  min: 0,
  max: 1,
  step: 0.01,
  start: { low: 0.25, high: 0.75 },
  meeting: 'push',
  outside: 'nearest',
  clearing: 'start',
};

describe('threshold', () => {
  const marks = (is: (typeof comparisons)[number], values: (number | null)[], upper?: number) =>
    lit(
      threshold.evaluate(
        { kind: 'threshold', is, limit: 5, ...(upper === undefined ? {} : { upper }) },
        context(values),
      ).verdict,
    );
  it('is strict or inclusive by its word, and null is on no side', () => {
    const values = [4, 5, 6, null];
    expect(marks('at or above', values)).toEqual([1, 2]);
    expect(marks('above', values)).toEqual([2]);
    expect(marks('below', values)).toEqual([0]);
    expect(marks('at or below', values)).toEqual([0, 1]);
    expect(marks('between', values, 6)).toEqual([1]);
  });
  it('parts every value into below, between and above', () => {
    fc.assert(
      fc.property(fc.integer(), fc.integer(), fc.integer(), (value, a, b) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)];
        const sides = [
          meets('below', value, low),
          meets('between', value, low, high),
          meets('at or above', value, high),
        ];
        expect(sides.filter(Boolean)).toHaveLength(1);
      }),
    );
  });
  it('rests while its lever holds no figure', () => {
    const spec = { kind: 'threshold', is: 'above', limit: { lever: 'gone' } } as const;
    expect(threshold.evaluate(spec, context([1]))).toMatchObject({ active: false });
  });
});

describe('a limit of the readings', () => {
  const lit90 = (figure: ReadingFigure, values: (number | null)[]) =>
    lit(threshold.evaluate({ kind: 'threshold', is: 'above', limit: figure }, context(values)).verdict);
  it('is their mean, median or percentile; nulls do not count', () => {
    const values = [1, 2, 3, 10, null];
    expect(readingFigure({ of: 'mean' }, readings(values))).toBe(4);
    expect(readingFigure({ of: 'median' }, readings(values))).toBe(2.5);
    expect(readingFigure({ of: 'percentile', percent: 90 }, readings(values))).toBeCloseTo(7.9, 9);
    expect(lit90({ of: 'mean' }, values)).toEqual([3]);
    expect(lit90({ of: 'median' }, values)).toEqual([2, 3]);
  });
  it('is none where there is no value', () => {
    expect(readingFigure({ of: 'mean' }, readings([null]))).toBeNaN();
    expect(
      threshold.evaluate({ kind: 'threshold', is: 'above', limit: { of: 'median' } }, context([])).active,
    ).toBe(false);
  });
});

describe('position', () => {
  const above = (values: (number | null)[], high: number) =>
    position.evaluate(
      { kind: 'position', is: 'at or above', limit: { lever: 'corridor', part: 'high' } },
      context(values, { lever: () => corridor, positionOf: () => ({ low: 0, high }) }),
    );
  it('places a share between the lowest and the highest reading', () => {
    expect(shareOfRange(0.25, readings([-10, 30, null, 0]))).toBe(0);
    expect(lit(above([-10, 30, 0, 20], 0.75).verdict)).toEqual([1, 3]);
    expect(lit(above([-10, 30, 0, 20], 0).verdict)).toEqual([0, 1, 2, 3]);
    expect(lit(above([-10, 30, 0, 20], 1).verdict)).toEqual([1]);
  });
  it('lights nothing without a range, and says why', () => {
    const flat = above([7, 7], 0.5);
    expect(flat.verdict).toEqual(Uint8Array.of(verdicts.unknown, verdicts.unknown));
    expect(flat.note!(english)).toBe('all values are alike, so there is no range');
    expect(above([7], 0.5).note!(english)).toContain('alike');
    expect(above([null], 0.5).note!(english)).toBe('no mark has a value');
  });
});

describe('span', () => {
  const month: Category = { field: 'day', grain: 'month' };
  const within = { from: '2021-03-15', to: '2021-05-31' };
  it.each([
    ['2021-02-01', 'none'],
    ['2021-03-01', 'touching'],
    ['2021-04-01', 'touching whole starting'],
    ['2021-05-01', 'touching whole starting'],
    ['2021-06-01', 'none'],
  ])('%s: %s', (value, expected) => {
    const found = Object.entries(spanMeeting(value, month, within))
      .filter(([, is]) => is)
      .map(([name]) => name)
      .sort();
    expect(found).toEqual(expected === 'none' ? [] : expected.split(' ').sort());
  });
  it('agrees with days counted one by one', () => {
    const day = fc.date({ min: new Date('2020-01-01'), max: new Date('2022-12-31'), noInvalidDate: true });
    fc.assert(
      fc.property(
        day,
        day,
        day,
        fc.constantFrom('month', 'week', 'quarter', 'day') as fc.Arbitrary<'month'>,
        (a, b, c, grain) => {
          const [from, to] = [a, b].map((d) => d.toISOString().slice(0, 10)).sort() as [string, string];
          const by = { field: 'day', grain };
          const start = startOf(c, grain);
          const days = daysOf(start, grain);
          const inside = days.filter((d) => d >= from && d <= to).length;
          expect(spanMeeting(start, by, { from, to })).toEqual({
            touching: inside > 0,
            whole: inside === days.length,
            starting: start >= from && start <= to,
          });
        },
      ),
    );
  });
  it('counts periods only partly inside, and keeps rows by day', () => {
    const on = context([1, 2, 3], { by: month, lever: () => stretch, positionOf: () => within });
    on.readings = readings([1, 2, 3], ['2021-03-01', '2021-04-01', null]);
    const spec = { kind: 'span', lever: 's', match: 'whole' } as const;
    const { verdict, note } = span.evaluate(spec, on);
    expect(verdict).toEqual(Uint8Array.of(verdicts.no, verdicts.yes, verdicts.unknown));
    expect(note!(english)).toBe('1 month only partly inside, not lit');
    const filter = span.rowFilter(spec, on)!;
    expect(['2021-03-14', '2021-03-15', '2021-05-31', '2021-06-01'].map(filter.keeps)).toEqual([
      false,
      true,
      true,
      false,
    ]);
    expect(span.evaluate(spec, { ...on, positionOf: () => null })).toMatchObject({ active: false });
  });
});

const startOf = (date: Date, grain: string) => {
  const text = date.toISOString().slice(0, 10);
  if (grain === 'month') return `${text.slice(0, 7)}-01`;
  if (grain === 'quarter')
    return `${text.slice(0, 4)}-${String(Math.floor(date.getUTCMonth() / 3) * 3 + 1).padStart(2, '0')}-01`;
  if (grain === 'day') return text;
  const monday = new Date(date);
  while (monday.getUTCDay() !== 1) monday.setUTCDate(monday.getUTCDate() - 1);
  return monday.toISOString().slice(0, 10);
};
function daysOf(start: string, grain: string): string[] {
  const days: string[] = [];
  const day = new Date(start);
  while (startOf(day, grain) === start) {
    days.push(day.toISOString().slice(0, 10));
    day.setUTCDate(day.getUTCDate() + 1);
  }
  return days;
}

describe('clock', () => {
  const now = localFromText('2024-03-05T10:59:58')!;
  const at = (value: KeyValue, unit: Parameters<typeof isNow>[2], by: Category = { field: 'f' }) =>
    isNow(value, by, unit, now);
  it('finds its period at any grain', () => {
    const by = (grain: Category['grain']) => ({ field: 'day', grain }) as Category;
    expect(at('2024-03-01', 'month', by('month'))).toBe(true);
    expect(at('2024-03-04', 'day', by('week'))).toBe(true);
    expect(at('2024-01-01', 'month', by('quarter'))).toBe(true);
    expect(at('2024-03-05', 'hour', by('day'))).toBe(true);
    expect(at('2023-03-01', 'month', by('month'))).toBe(false);
  });
  it('finds its number, its name or its text', () => {
    expect([at(10, 'hour'), at(11, 'hour'), at(59, 'minute'), at(58, 'second')]).toEqual([
      true,
      false,
      true,
      true,
    ]);
    expect([at(2, 'weekday'), at('Tue', 'weekday'), at('tuesday', 'weekday'), at('Wed', 'weekday')]).toEqual([
      true,
      true,
      true,
      false,
    ]);
    expect([at('Mar', 'month'), at('March', 'month'), at(3, 'month'), at(5, 'day')]).toEqual([
      true,
      true,
      true,
      true,
    ]);
    expect([
      at('10:59', 'minute'),
      at('10:00', 'hour'),
      at('10', 'hour'),
      at('', 'hour'),
      at(null, 'hour'),
    ]).toEqual([true, true, true, false, false]);
  });
});
