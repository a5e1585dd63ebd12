import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { english } from '../messages/locale';
import { inWords } from '../testing/in-words';
import { type LimitsLever, limits, withLimit } from './limits';

const corridor: LimitsLever = {
  kind: 'limits',
  id: 'corridor',
  name: 'Corridor',
  as: 'value',
  min: 0,
  max: 1000,
  step: 5,
  start: { low: 100, high: 400 },
  meeting: 'push',
  outside: 'nearest',
  clearing: 'start',
};

describe('limits that are typed', () => {
  it('stay what was typed, and are written in full', () => {
    const typed = { low: 125, high: 434.5 };
    expect(inWords(limits.settle(corridor, typed, undefined))).toEqual({ position: typed });
    expect(limits.summary(corridor, typed, undefined, english)).toBe('125 to 434.5');
    const shares: LimitsLever = {
      ...corridor,
      as: 'share',
      max: 1,
      step: 0.05,
      start: { low: 0.25, high: 0.75 },
    };
    expect(limits.summary(shares, { low: 0.125, high: 0.8 }, undefined, english)).toBe('12.5% to 80%');
  });
  it('push or stop the other one just where they are', () => {
    expect(withLimit(corridor, { low: 100, high: 400 }, 'low', 434.5)).toEqual({ low: 434.5, high: 434.5 });
    const stops: LimitsLever = { ...corridor, meeting: 'stop' };
    expect(withLimit(stops, { low: 100, high: 400 }, 'low', 434.5)).toEqual({ low: 400, high: 400 });
  });
  it('come back from an address as they went there', () => {
    const figure = fc.double({ min: 0, max: 1000, noNaN: true });
    fc.assert(
      fc.property(figure, figure, (a, b) => {
        const position = { low: Math.min(a, b), high: Math.max(a, b) };
        const read = limits.fromQuery(corridor, limits.toQuery(position))!;
        expect(limits.settle(corridor, read, undefined).position).toEqual({
          low: position.low + 0,
          high: position.high + 0,
        });
      }),
    );
  });
});
