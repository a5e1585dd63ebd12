import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quays, years } from '../testing/fixtures';
import type { KeyValue } from '../values';
import { pick } from './pick';
import { added, inverted, stretchOf, toggled } from './pick-moves';
import { isAtStart, positionOf, positionsFromQuery, positionsToQuery } from './positions';

const anyValue = fc.oneof(
  fc.string({ minLength: 1 }),
  fc.double({ noNaN: true, noDefaultInfinity: true }).filter((n) => !Object.is(n, -0)),
  fc.boolean(),
);

describe('positions in an address', () => {
  it('read as names and values', () => {
    const query = positionsToQuery([quays, years], {
      quays: ['Quel – Ostrin', 'Harl'],
      years: ['2024-01-01'],
    });
    expect(decodeURIComponent(query.toString().replaceAll('+', ' '))).toBe(
      'quays=Quel – Ostrin&quays=Harl&years=2024-01-01',
    );
  });
  it('leave out levers at their start, and tell emptied ones', () => {
    const started = { ...quays, start: ['Quel'] };
    expect(positionsToQuery([started], { quays: ['Quel'] }).toString()).toBe('');
    expect(positionsToQuery([started], { quays: [] }).toString()).toBe('quays=');
    expect(positionsFromQuery([started], new URLSearchParams('quays='))).toEqual({ quays: [] });
    expect(positionsFromQuery([started], new URLSearchParams('other=1'))).toEqual({});
  });
  it('come back the same, whatever is picked', () => {
    fc.assert(
      fc.property(fc.uniqueArray(anyValue), (picked) => {
        const address = positionsToQuery([quays], { quays: picked }).toString();
        const back = positionsFromQuery([quays], new URLSearchParams(address));
        expect(positionOf(quays, back)).toEqual(picked);
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
  ] as const)('%s', (clearing, expected) => {
    expect(pick.clear({ ...quays, start: ['Quel'], clearing }, ['Harl'])).toEqual(expected);
  });
});

describe('a pick', () => {
  const order = ['a', 'b', null, 'c', 'd'];
  it('stretches over marks either way, without the missing one', () => {
    expect(stretchOf(order, 'b', 'd')).toEqual(['b', 'c', 'd']);
    expect(stretchOf(order, 'd', 'b')).toEqual(['b', 'c', 'd']);
    expect(stretchOf(order, 'gone', 'b')).toEqual(['b']);
  });
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
    const listed = ['a', 'b'].map((value) => ({ value, count: 1 }));
    const text = (value: KeyValue) => String(value);
    expect(pick.settle(quays, ['a', 'b'], listed, text)).toEqual({ position: ['a', 'b'] });
    expect(pick.settle(quays, ['a', 'v', 'w', 'x', 'y'], listed, text)).toEqual({
      position: ['a'],
      notice: 'Not in the data, left out: v, w, x and 1 more.',
    });
  });
  it('is at its start in any order', () => {
    expect(isAtStart({ ...quays, start: ['a', 'b'] }, { quays: ['b', 'a'] })).toBe(true);
    expect(isAtStart(quays, { quays: ['a'] })).toBe(false);
  });
});
