import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dayFrom } from '../words/day-from';
import { figureFrom } from '../words/figure-from';
import { figureWriter } from '../words/figure-writer';
import { keyText } from '../words/key-text';
import { briefNumberText, exactNumberText, fixedText, numberText, tickTexts } from '../words/number-text';
import { counted, listed, ordinal } from '../words/plural';
import german from './de.json';
import { english, localeOf } from './locale';
import { coreMessages } from './say';

coreMessages.learn('de', german);

/** Spaces that do not break, and marks that say in which direction to read, are not seen. */
const plain = (text: string) => text.replace(/[\u00a0\u202f]/g, ' ').replace(/[\u200e\u200f\u061c]/g, '');

describe.each([
  {
    tag: 'en',
    numbers: ['1,234,567', '−0.5', '12.35', '98.8M', '20K', '18.1%'],
    dates: ['5 Mar 2021', 'Mar 2021', '2021 Q1', '2021'],
    list: 'a, b and c',
    words: ['(missing)', '3 routes', '2nd'],
    direction: 'ltr',
  },
  {
    tag: 'de',
    numbers: ['1.234.567', '−0,5', '12,35', '98,8 Mio.', '20.000', '18,1 %'],
    dates: ['5. März 2021', 'März 2021', '1. Quartal 2021', '2021'],
    list: 'a, b und c',
    words: ['(fehlt)', '3 route', '2.'],
    direction: 'ltr',
  },
  {
    tag: 'fr',
    numbers: ['1 234 567', '−0,5', '12,35', '98,8 M', '20 k', '18,1 %'],
    dates: ['5 mars 2021', 'mars 2021', '2021 Q1', '2021'],
    list: 'a, b et c',
    words: ['(missing)', '3 route', '2nd'],
    direction: 'ltr',
  },
  {
    tag: 'ar-EG',
    numbers: ['١٬٢٣٤٬٥٦٧', '−٠٫٥', '١٢٫٣٥', '٩٨٫٨ مليون', '٢٠ ألف', '١٨٫١٪'],
    dates: ['٥ مارس ٢٠٢١', 'مارس ٢٠٢١', '٢٠٢١ Q1', '٢٠٢١'],
    list: 'a وb وc',
    words: ['(missing)', '٣ route', '٢nd'],
    direction: 'rtl',
  },
])('in $tag', ({ tag, numbers, dates, list, words, direction }) => {
  const locale = localeOf(tag);
  it('numbers are written', () => {
    const { full } = figureWriter({ as: 'percent', decimals: 1 }, locale);
    const texts = [
      numberText(1_234_567, locale),
      exactNumberText(-0.5, locale),
      numberText(12.345_678, locale),
      briefNumberText(98_765_432, locale),
      tickTexts([0, 20_000, 40_000], locale)[1]!,
      full(0.181),
    ];
    expect(texts.map(plain)).toEqual(numbers);
  });
  it('dates and periods are written', () => {
    const texts = [
      keyText('2021-03-05', locale, 'date'),
      ...(['month', 'quarter', 'year'] as const).map((grain) => keyText('2021-03-01', locale, 'date', grain)),
    ];
    expect(texts.map(plain)).toEqual(dates);
  });
  it('lists, counts and places are written, in English words where no others are known', () => {
    expect(plain(listed(['a', 'b', 'c'], locale))).toBe(list);
    const texts = [keyText(null, locale), counted(3, 'route', locale), ordinal(2, locale)];
    expect(texts.map(plain)).toEqual(words);
    expect(locale.direction).toBe(direction);
  });
  it('what is written is read again', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e9, max: 1e9, noNaN: true }).map((figure) => Math.round(figure * 100) / 100 + 0),
        (figure) => {
          const text = fixedText(figure, 2, locale);
          // A comma or point before exactly three digits can be read both ways; here there are two behind it.
          expect(figureFrom(text, locale).figure).toBe(figure);
        },
      ),
    );
    fc.assert(
      fc.property(
        fc.date({ min: new Date('1950-01-01'), max: new Date('2080-12-31'), noInvalidDate: true }),
        (date) => {
          const day = date.toISOString().slice(0, 10);
          const text = keyText(day, locale, 'date');
          // Digits of other scripts stand in no date that people type.
          if (/^[\d\p{L}. ]+$/u.test(plain(text)) && !/[٠-٩]/.test(text))
            expect(dayFrom(plain(text), locale)).toBe(day);
        },
      ),
    );
  });
});

it.each([
  ['1.500', 1500],
  ['1.234.567', 1_234_567],
  ['0,8', 0.8],
  ['1.234,5', 1234.5],
  ['12,5 %', 12.5],
  ['0.645', 0.645],
  ['1,500', 1.5],
])('"%s" typed on a German board is %d', (text, figure) => {
  expect(figureFrom(text, localeOf('de')).figure).toBe(figure);
});

it.each([
  ['12. März 2021', '2021-03-12'],
  ['12. Sept. 2021', '2021-09-12'],
  ['März 2021', '2021-03-01'],
  ['12.3.2021', '2021-03-12'],
  ['12 Mar 2021', '2021-03-12'],
])('"%s" typed on a German board is %s', (text, day) => {
  expect(dayFrom(text, localeOf('de'))).toBe(day);
});

it('a percent sign that an author gives as the unit stands as the locale has it', () => {
  const written = (tag: string) => plain(figureWriter({ as: 'number', unit: '%' }, localeOf(tag)).full(8));
  expect(['en', 'de'].map(written)).toEqual(['8%', '8 %']);
});

it('a tag that is none, and none at all, are English', () => {
  expect(localeOf('not a tag')).toBe(english);
  expect(localeOf(undefined)).toBe(english);
  expect(localeOf('de')).toBe(localeOf('de'));
});

it('noughts at the end tell two figures not apart, in any locale', () => {
  for (const tag of ['en', 'de', 'ar-EG']) {
    const writer = figureWriter({ as: 'number', decimals: 2, unit: 'min' }, localeOf(tag));
    expect(writer.asSet(4.3)).toBe(writer.full(4.3));
    expect(writer.asSet(4.345)).toBe(writer.exact(4.345));
  }
});
