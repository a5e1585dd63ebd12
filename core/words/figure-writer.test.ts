import { expect, it } from 'vitest';
import type { FigureFormat } from '../board/figure-format';
import { english } from '../messages/locale';
import { figureWriter } from './figure-writer';

const plain = (text: string) => text.replaceAll('\u00a0', ' ');
const full = (value: number, format?: FigureFormat) => plain(figureWriter(format, english).full(value));

it.each<[number, FigureFormat | undefined, string]>([
  [1234.5, undefined, '1,235'],
  [1234.5, { as: 'number', decimals: 2 }, '1,234.50'],
  [0.834, { as: 'percent' }, '83.40%'],
  [0.834, { as: 'percent', decimals: 0 }, '83%'],
  [4.25, { as: 'number', unit: 'min', decimals: 1 }, '4.3 min'],
  [-1200, { as: 'number', unit: '€', unitAt: 'before' }, '−€1,200'],
  [1200, { as: 'number', unit: 'kr', unitAt: 'before' }, 'kr 1,200'],
  [20_200_000, { as: 'brief', unit: 'kr', unitAt: 'before' }, 'kr 20.2M'],
  [Number.NaN, { as: 'percent', unit: 'x' }, 'no value'],
])('%s as %o reads %s', (value, format, text) => {
  expect(full(value, format)).toBe(text);
});

it('figures beside each other have the same decimals, at the scale they are written in', () => {
  const write = figureWriter({ as: 'percent' }, english).beside([0.5, 0.123]);
  expect([0.5, 0.123].map((value) => plain(write(value)))).toEqual(['50.00%', '12.30%']);
  expect(plain(figureWriter({ as: 'percent' }, english).ticks([0.25])[0]!)).toBe('25%');
});

it.each<[number, FigureFormat | undefined, string]>([
  [101.25, undefined, '101.25'],
  [434.5, undefined, '434.5'],
  [12_345, { as: 'brief' }, '12,345'],
  [0.3125, { as: 'percent', decimals: 0 }, '31.25%'],
  [4.3, { as: 'number', decimals: 2 }, '4.30'],
  [12_345.67, undefined, '12,345.67'],
])('a limit of %s as %o is written as it was set: %s', (value, format, text) => {
  expect(plain(figureWriter(format, english).asSet(value))).toBe(text);
});

it('what may be computed is written as it was set only where few digits tell it', () => {
  const { perhapsSet } = figureWriter(undefined, english);
  expect([101.25, 13_613.75, 100 / 3].map(perhapsSet)).toEqual(['101.25', '13,614', '33.33']);
});
