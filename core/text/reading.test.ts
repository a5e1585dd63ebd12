import { expect, it } from 'vitest';
import { english } from '../messages/locale';
import { dayFrom } from '../words/day-from';
import { figureFrom } from '../words/figure-from';
import { ordinal } from '../words/plural';

it.each([
  ['1,5', 1.5, false],
  ['1.5', 1.5, false],
  ['15 %', 15, true],
  ['12,5%', 12.5, true],
  ['1,200', 1200, false],
  ['1 200', 1200, false],
  ['1.234.567,8', 1234567.8, false],
  ['1,234,567.8', 1234567.8, false],
  ['−5', -5, false],
  ['1e3', 1000, false],
  ['.5', 0.5, false],
  ['0,645', 0.645, false],
  ['−0,125', -0.125, false],
  ['0,645%', 0.645, true],
])('%s is a figure', (text, figure, percent) => {
  expect(figureFrom(text, english)).toEqual({ figure, percent });
});
it.each(['', 'many', '1..2', '1-2', '0x10', 'Infinity', '5 min'])('"%s" is none', (text) => {
  expect(figureFrom(text, english).figure).toBeNaN();
});
it.each([
  ['2021-03-12', '2021-03-12'],
  ['12 Mar 2021', '2021-03-12'],
  ['12 March 2021', '2021-03-12'],
  ['12.3.2021', '2021-03-12'],
  ['Mar 2021', '2021-03-01'],
  ['2021-03', '2021-03-01'],
  ['2021', '2021-01-01'],
  ['  1  Jan  2020 ', '2020-01-01'],
])('%s is a day', (text, day) => {
  expect(dayFrom(text, english)).toBe(day);
});
it.each(['', 'soon', '2021-02-30', '31 Foo 2021'])('"%s" is no day', (text) => {
  expect(dayFrom(text, english)).toBeUndefined();
});
it('places are counted in English', () => {
  expect([1, 2, 3, 4, 11, 12, 13, 21, 102, 111, 1003].map((n) => ordinal(n, english))).toEqual([
    '1st',
    '2nd',
    '3rd',
    '4th',
    '11th',
    '12th',
    '13th',
    '21st',
    '102nd',
    '111th',
    '1,003rd',
  ]);
});
