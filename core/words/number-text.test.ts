import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { domainOf, ticksOf } from '../forms/value-axis';
import { english } from '../messages/locale';
import { figureWriter } from './figure-writer';
import { keyText } from './key-text';
import {
  briefNumberText,
  exactNumberText,
  fixedText,
  numberText,
  numberWriter,
  plainNumber,
  tickTexts,
} from './number-text';

const plain = (text: string) => text.replaceAll('\u00a0', ' ');
/** The figure that a text in thousands, millions .. stands for. */
function figureIn(text: string): number {
  const [, digits = '', mark = ''] = /^(.*?)(K|M|B|T)?$/.exec(text.replaceAll('−', '-').replaceAll(',', ''))!;
  return Number(digits) * ({ K: 1e3, M: 1e6, B: 1e9, T: 1e12 }[mark] ?? 1);
}

describe('axes', () => {
  it.each([
    [
      [1_170_000, 1_172_000, 1_174_000],
      ['1,170K', '1,172K', '1,174K'],
    ],
    [
      [0, 500_000, 1_000_000],
      ['0', '0.5M', '1.0M'],
    ],
    [
      [1_170_000, 1_170_001, 1_170_002],
      ['1,170,000', '1,170,001', '1,170,002'],
    ],
    [
      [0, 0.5, 1],
      ['0', '0.5', '1.0'],
    ],
    [
      [0, 10_000, 20_000],
      ['0', '10K', '20K'],
    ],
    [
      [1, 10, 100, 1000, 10_000, 1_000_000],
      ['1', '10', '100', '1,000', '10K', '1M'],
    ],
    [
      [0, 1e15, 2e15],
      ['0', '1,000T', '2,000T'],
    ],
    [
      [-0.002, 0, 0.002],
      ['−0.002', '0', '0.002'],
    ],
  ])('%j read %j', (ticks, texts) => {
    expect(tickTexts(ticks, english)).toEqual(texts);
  });

  it('never write two ticks alike, and each as what it is', () => {
    const end = fc.oneof(
      fc.double({ min: -1e6, max: 1e6, noNaN: true }),
      fc.double({ min: -1e13, max: 1e13, noNaN: true }),
      fc.double({ min: -1e-3, max: 1e-3, noNaN: true }),
    );
    const width = fc.tuple(fc.double({ min: 1, max: 10, noNaN: true }), fc.integer({ min: -6, max: 12 }));
    fc.assert(
      fc.property(
        end,
        width,
        fc.integer({ min: 2, max: 10 }),
        fc.constantFrom('even' as const, 'log' as const),
        fc.constantFrom(undefined, 'number' as const, 'percent' as const, 'brief' as const),
        (low, [digits, power], count, scale, as) => {
          // No axis is a billionth of its figures wide.
          const high = low + Math.max(digits * 10 ** power, Math.abs(low) * 1e-9);
          const range = { low, high, scale };
          const ticks = ticksOf({ scale, domain: domainOf(range, count) }, count);
          const texts = figureWriter(as && { as, unit: as === 'number' ? '€' : '' }, english).ticks(ticks);
          expect(new Set(texts).size).toBe(new Set(ticks).size);
          if (as !== undefined) return;
          const step = Math.abs((ticks[1] ?? 0) - (ticks[0] ?? 0)) || Math.abs(ticks[0] ?? 0);
          texts.forEach((text, i) => {
            expect(Math.abs(figureIn(text) - ticks[i]!)).toBeLessThanOrEqual(step * 1e-2);
          });
        },
      ),
      { numRuns: 20_000 },
    );
  });
});

describe('figures', () => {
  it.each([
    [2.5, 0, '3'],
    [-2.5, 0, '−3'],
    [1.005, 2, '1.01'],
    [-1.005, 2, '−1.01'],
    [999.96, 1, '1,000.0'],
    [0.125, 2, '0.13'],
  ])('%d with %d decimals is rounded half away from zero', (value, decimals, text) => {
    expect(fixedText(value, decimals, english)).toBe(text);
  });
  it('are rounded alike on both sides of zero', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.001, max: 1e9, noNaN: true }), (value) => {
        expect(numberText(-value, english)).toBe(`−${numberText(value, english)}`);
        expect(exactNumberText(-value, english)).toBe(`−${exactNumberText(value, english)}`);
      }),
    );
  });
  it.each([
    [0.05, '5%'],
    [0.07, '7%'],
    [0.57, '57%'],
    [0.29, '29%'],
    [-0.07, '−7%'],
  ])('%d is %s, whatever binary arithmetic makes of it', (value, text) => {
    expect(plain(figureWriter({ as: 'percent' }, english).full(value))).toBe(text);
  });
  it.each([
    [1e15, '1,000,000,000,000,000'],
    [1234567890123456, '1,234,567,890,123,456'],
    [-9007199254740991, '−9,007,199,254,740,991'],
    [1e18, '1e+18'],
    [0.004, '0.004'],
    [999.96, '1,000'],
    [99.999, '100.0'],
  ])('%d reads %s', (value, text) => {
    expect(numberText(value, english)).toBe(text);
  });
  it.each([
    [18257.400000000005, '18257.4'],
    [0.1 + 0.2, '0.3'],
    [1 / 3, '0.333333333333333'],
    [9007199254740991, '9007199254740991'],
    [1e-7, '1e-7'],
  ])('%d is %s to a program', (value, text) => {
    expect(plainNumber(value)).toBe(text);
  });
  it.each([
    [1e15, '1,000T'],
    [999_999, '1M'],
    [203_456, '203K'],
    [9_812_345, '9.81M'],
    [-45_678, '−45.7K'],
  ])('%d is %s beside a crowded mark', (value, text) => {
    expect(briefNumberText(value, english)).toBe(text);
  });
  it('are exact in tips and workings', () => {
    expect(plain(figureWriter({ as: 'number', decimals: 2, unit: '€' }, english).exact(1234.5))).toBe(
      '1,234.50 €',
    );
    expect(plain(figureWriter({ as: 'number', decimals: 0, unit: '€' }, english).exact(1234.567))).toBe(
      '1,234.567 €',
    );
    expect(exactNumberText(12345.678, english)).toBe('12,345.678');
  });
  it('beside larger ones are never written as nothing', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1 }), (values) => {
        const write = numberWriter(values, english);
        for (const value of values) if (value !== 0) expect(write(value)).not.toMatch(/^−?0(\.0+)?$/);
      }),
    );
  });
  it('as categories never share a label', () => {
    const value = fc.oneof(
      fc.double({ noNaN: true, noDefaultInfinity: true }),
      fc.constantFrom(0.123, 0.124, 1234.4, 1234.6),
    );
    fc.assert(
      fc.property(value, value, (a, b) => {
        expect(keyText(a, english, 'decimal') === keyText(b, english, 'decimal')).toBe(a === b);
      }),
    );
    expect(keyText('2024-03-01T10:00:00.5', english, 'datetime')).not.toBe(
      keyText('2024-03-01T10:00:00', english, 'datetime'),
    );
    expect(keyText('(missing)', english, 'text')).not.toBe(keyText(null, english, 'text'));
  });
});
