import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { KeyValue } from '../data/values';
import { english } from '../messages/locale';
import { dataset, facts, factsOf, quays, years } from '../testing/fixtures';
import { inWords } from '../testing/in-words';
import { type ChoiceLever, choice } from './choice';
import { type LimitsLever, limits } from './limits';
import { type NumberLever, number } from './number';
import { pick } from './pick';
import { added, inverted, pastedEntries, toggled } from './pick-moves';
import { positionsFromQuery, positionsToQuery } from './positions';
import type { Lever } from './registry';
import { isAtStart, settledPosition } from './settled-positions';

const anyValue = fc.oneof(
  fc.string({ minLength: 1 }),
  fc.double({ noNaN: true, noDefaultInfinity: true }).filter((n) => !Object.is(n, -0)),
  fc.boolean(),
);

export const count: NumberLever = {
  kind: 'number',
  id: 'count',
  name: 'Count',
  dataset: 'landings',
  min: 0,
  max: { of: 'values', field: 'quay' },
  step: 1,
  start: 2,
  outside: 'nearest',
  clearing: 'start',
};
export const corridor: LimitsLever = {
  kind: 'limits',
  id: 'corridor',
  name: 'Corridor',
  as: 'value',
  min: 0,
  max: 100,
  step: 5,
  start: { low: 20, high: 80 },
  meeting: 'push',
  outside: 'nearest',
  clearing: 'start',
};
const side: ChoiceLever = {
  kind: 'choice',
  id: 'side',
  name: 'Side',
  options: [
    { label: 'highest', value: 1 },
    { label: 'lowest', value: -1 },
  ],
  all: false,
  clearing: 'start',
};

describe('positions in an address', () => {
  const write = (levers: Lever[], positions: Record<string, unknown>) =>
    decodeURIComponent(positionsToQuery(levers, positions, {}).toString().replaceAll('+', ' '));
  it('read as names and values', () => {
    expect(
      write([quays, years, count, corridor, side], {
        quays: ['Quel – Ostrin', 'Harl'],
        years: ['2024-01-01'],
        count: 3,
        corridor: { low: 25, high: 80 },
        side: -1,
      }),
    ).toBe('quays=Quel – Ostrin&quays=Harl&years=2024-01-01&count=3&corridor=25..80&side=is:-1');
  });
  it('leave out levers at their start, and tell emptied ones', () => {
    const started = { ...quays, start: ['Quel'] };
    expect(write([started], { quays: ['Quel'] })).toBe('');
    expect(write([started], { quays: [] })).toBe('quays=');
    expect(positionsFromQuery([started], new URLSearchParams('quays=')).positions).toEqual({ quays: [] });
    expect(positionsFromQuery([started], new URLSearchParams('other=1')).positions).toEqual({});
  });
  it('name the levers whose part makes no sense, and leave them at their start', () => {
    const read = positionsFromQuery(
      [count, corridor, side, quays],
      new URLSearchParams('count=many&corridor=3&side=is:{}&quays=Harl'),
    );
    expect(read).toEqual({ positions: { quays: ['Harl'] }, unread: ['count', 'corridor', 'side'] });
  });
  it('have no place for levers hidden from viewers', () => {
    const hidden = { ...count, hidden: true };
    expect(write([hidden], { count: 3 })).toBe('');
    expect(positionsFromQuery([hidden], new URLSearchParams('count=3')).positions).toEqual({});
  });
  it('come back the same, whatever is picked', () => {
    fc.assert(
      fc.property(fc.uniqueArray(anyValue), (picked) => {
        const address = positionsToQuery([quays], { quays: picked }, {}).toString();
        const { positions } = positionsFromQuery([quays], new URLSearchParams(address));
        expect(settledPosition(quays, positions, {}).position).toEqual(picked);
      }),
    );
  });
  it('drop what cannot be read', () => {
    expect(pick.fromQuery(quays, ['is:{"a":1}', 'is:nonsense', 'is:null', 'is:3', 'is:3', 'Quel'])).toEqual([
      3,
      'Quel',
    ]);
  });
});

describe('clearing', () => {
  it.each([
    ['keep', ['Harl']],
    ['start', ['Quel']],
    ['empty', []],
  ] as const)('a pick: %s', (clearing, expected) => {
    expect(pick.clear({ ...quays, start: ['Quel'], clearing }, ['Harl'], undefined)).toEqual(expected);
  });
  it('a choice that may not be empty goes Back to this moments start', () => {
    expect(choice.clear({ ...side, clearing: 'empty' }, -1, undefined)).toBe(1);
    expect(choice.clear({ ...side, clearing: 'empty', all: true }, -1, undefined)).toBeNull();
    expect(choice.clear({ ...side, clearing: 'keep' }, -1, undefined)).toBe(-1);
  });
});

describe('a pick', () => {
  it('toggles, adds and inverts', () => {
    expect(toggled(['a'], 'b')).toEqual(['a', 'b']);
    expect(toggled(['a', 'b'], 'a')).toEqual(['b']);
    expect(added(['a'], ['a', 'c'])).toEqual(['a', 'c']);
    expect(inverted(['a'], ['a', 'b', 'c'])).toEqual(['b', 'c']);
  });
  it('inverted twice is what it was', () => {
    fc.assert(
      fc.property(fc.uniqueArray(anyValue), fc.array(fc.boolean()), (all, held) => {
        const picked = all.filter((_, i) => held[i]);
        expect(inverted(inverted(picked, all), all)).toEqual(picked);
      }),
    );
  });
  it('says which of its values are not in the data', () => {
    expect(inWords(pick.settle(quays, ['Harl', 'Quel'], facts))).toEqual({ position: ['Harl', 'Quel'] });
    expect(inWords(pick.settle(quays, ['Harl', 'v', 'w', 'x', 'y'], facts))).toEqual({
      position: ['Harl'],
      notice: 'Not in the data, ignored: v, w, x and 1 more.',
    });
  });
  it('keeps everything while nothing is known, and drops what the server does not know', () => {
    expect(inWords(pick.settle(quays, ['v'], undefined))).toEqual({ position: ['v'] });
    const long = { dataset, gone: new Set<KeyValue>(['v']) };
    expect(pick.settle(quays, ['v', 'Quel'], long).position).toEqual(['Quel']);
  });
  it('can start with the top few by a measure', () => {
    const top = (n: number, start: 'highest' | 'lowest') =>
      pick.start(
        { ...quays, start: { top: n, side: start, measure: { aggregate: 'sum', field: 'boats' } } },
        facts,
      );
    expect(top(2, 'highest')).toEqual(['Quel', 'Ostrin']);
    expect(top(1, 'lowest')).toEqual(['Harl']);
    expect(top(9, 'highest')).toHaveLength(3);
  });
  it('is at its start in any order', () => {
    expect(isAtStart({ ...quays, start: ['a', 'b'] }, { quays: ['b', 'a'] }, {})).toBe(true);
    expect(isAtStart(quays, { quays: ['a'] }, {})).toBe(false);
  });
  it('takes a pasted list, one a line or in one line', () => {
    expect(pastedEntries('Quel – Ostrin\r\n"Harl, old ""town"""\n\nQuel – Ostrin')).toEqual([
      'Quel – Ostrin',
      'Harl, old "town"',
    ]);
    expect(pastedEntries('a; b,c')).toEqual(['a', 'b', 'c']);
    expect(pastedEntries('a\tb\nc\td')).toEqual(['a', 'b', 'c', 'd']);
  });
});

describe('a choice', () => {
  const quay: ChoiceLever = { ...side, options: [], dataset: 'landings', field: 'quay' };
  delete (quay as Partial<ChoiceLever>).options;
  it('starts with the first value there is, or with all', () => {
    expect(choice.start(quay, facts)).toBe('Harl');
    expect(choice.start({ ...quay, all: true }, facts)).toBeNull();
    expect(choice.start({ ...quay, start: 'Quel' }, facts)).toBe('Quel');
  });
  it('falls back and says so when its value is gone', () => {
    expect(inWords(choice.settle({ ...quay, start: 'Quel' }, 'Tarsk', facts))).toEqual({
      position: 'Quel',
      notice: 'Tarsk is not in the data; set to Quel.',
    });
    expect(choice.settle({ ...quay, start: 'Tarsk' }, 'Tarsk', facts).position).toBe('Harl');
    expect(inWords(choice.settle(side, 'other', undefined))).toEqual({
      position: 1,
      notice: 'other is not an option; set to highest.',
    });
  });
  it('names a side by word or by sign', () => {
    expect([choice.side!(-1), choice.side!('lowest'), choice.side!(1), choice.side!('highest')]).toEqual([
      -1, -1, 1, 1,
    ]);
  });
});

describe('how many of a list are picked', () => {
  it('is said of all there are, and of periods only once it is known how many there are', () => {
    expect(pick.summary(quays, ['Quel'], { dataset }, english)).toMatch(/^1 of \d+$/);
    // There are as many dates as days: the years are fewer.
    expect(pick.summary(years, ['2021-01-01'], { dataset }, english)).not.toMatch(/ of /);
    expect(pick.summary(years, ['2021-01-01'], facts, english)).toMatch(/^1 of \d+$/);
  });
});

describe('a number', () => {
  it('is bound by the data', () => {
    expect(inWords(number.settle(count, 7, facts))).toEqual({
      position: 3,
      notice: '7 is above the maximum of 3; set to 3.',
    });
    expect(inWords(number.settle({ ...count, outside: 'start' }, -1, facts))).toEqual({
      position: 2,
      notice: '-1 is below the minimum of 0; set to 2.'.replace('-1', '−1'),
    });
    // Steps are for sliding: what is typed stays, and is written in full.
    expect(inWords(number.settle(count, 2.4, facts))).toEqual({ position: 2.4 });
    expect(number.summary(count, 2.4, facts, english)).toBe('2.4');
    expect(number.figures!.move(count, 2, 'value', 2.4, facts)).toBe(2);
  });
  it('stays within bounds and on steps, however it is moved and whatever the bounds become', () => {
    const figure = fc.double({ min: -1e6, max: 1e6, noNaN: true });
    fc.assert(
      fc.property(
        figure,
        figure,
        fc.constantFrom(0.1, 0.25, 1, 5, 1000),
        fc.array(figure, { minLength: 1 }),
        (a, b, step, moves) => {
          const [low, high] = [Math.round(Math.min(a, b)), Math.round(Math.max(a, b))];
          const lever: NumberLever = { ...count, min: low, max: high, step, start: low };
          for (const move of moves) {
            const moved = number.figures!.move(lever, low, 'value', move, undefined);
            expect(moved).toBeGreaterThanOrEqual(low);
            expect(moved).toBeLessThanOrEqual(high);
            const steps = (moved - low) / step;
            if (moved !== high) expect(Math.abs(steps - Math.round(steps))).toBeLessThan(1e-6);
            expect(inWords(number.settle(lever, moved, undefined))).toEqual({ position: moved });
          }
        },
      ),
    );
  });
});

describe('limits', () => {
  it('push or stop where they meet', () => {
    const moved = (meeting: 'push' | 'stop', part: string, to: number) =>
      limits.figures!.move({ ...corridor, meeting }, { low: 20, high: 80 }, part, to, undefined);
    expect(moved('push', 'low', 90)).toEqual({ low: 90, high: 90 });
    expect(moved('stop', 'low', 90)).toEqual({ low: 80, high: 80 });
    expect(moved('push', 'high', 10)).toEqual({ low: 10, high: 10 });
    expect(moved('stop', 'high', 10)).toEqual({ low: 20, high: 20 });
  });
  it('say what they make of figures outside', () => {
    expect(inWords(limits.settle(corridor, { low: -10, high: 120 }, undefined))).toEqual({
      position: { low: 0, high: 100 },
      notice: '−10 is below the minimum of 0; set to 0. 120 is above the maximum of 100; set to 100.',
    });
  });
  it('keep low at or below high through any moves, bounds and addresses', () => {
    const figure = fc.double({ min: -1e4, max: 1e4, noNaN: true });
    const move = fc.tuple(fc.constantFrom('low', 'high'), figure);
    fc.assert(
      fc.property(
        fc.array(fc.oneof(move, fc.tuple(fc.constant('bounds'), figure, figure))),
        fc.constantFrom('push', 'stop') as fc.Arbitrary<'push' | 'stop'>,
        (moves, meeting) => {
          let lever: LimitsLever = { ...corridor, meeting };
          let position = limits.start(lever, undefined);
          for (const [what, a, b] of moves) {
            if (what === 'bounds') {
              lever = { ...lever, min: Math.min(a, b!), max: Math.max(a, b!) };
              position = limits.settle(lever, position, undefined).position;
            } else position = limits.figures!.move(lever, position, what, a, undefined);
            expect(position.low).toBeLessThanOrEqual(position.high);
            expect(position.low).toBeGreaterThanOrEqual(lever.min);
            expect(position.high).toBeLessThanOrEqual(lever.max);
            expect(limits.fromQuery(lever, limits.toQuery(position))).toEqual(position);
          }
        },
      ),
    );
  });
});

it('the same move again leaves the very same standing', () => {
  const known = factsOf([quays]);
  const positions = { quays: ['Harl', 'gone'] };
  const first = settledPosition(quays, positions, known);
  expect(settledPosition(quays, { ...positions, other: 1 }, known)).toBe(first);
  expect(first.position).toEqual(['Harl']);
});
