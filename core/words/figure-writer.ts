import { decimal } from '@sorvik/formula/decimal';
import type { FigureFormat } from '../board/figure-format';
import type { Locale } from '../messages/locale';
import {
  briefNumberText,
  exactNumberText,
  fixedText,
  noValue,
  numberText,
  numberWriter,
  tickTexts,
} from './number-text';

/** A format, and what is added to figures before they are written: a ratio that stands as a distance from one. */
export interface WrittenFormat extends FigureFormat {
  from?: number;
}

/** How the figures of a measure read, in the places where they stand. */
export interface FigureWriter {
  locale: Locale;
  /** One by itself; NaN is "no value". */
  full(value: number): string;
  /** With all its decimals: in tips and workings, and where two figures would look alike. */
  exact(value: number): string;
  /** With every digit that tells it from the next figure there is: where 15 are not enough. */
  nearest(value: number): string;
  /** In as few letters as will do, beside crowded marks. */
  brief(value: number): string;
  /** Those at an axis, told from each other. */
  ticks(values: readonly number[]): string[];
  /** One that somebody set, such as a limit: just as it was set. */
  asSet(value: number): string;
  /** The same where it may also have been computed: what few digits tell is taken for set, as a mean has no end of them. */
  perhapsSet(value: number): string;
  /** Figures beside each other: all with the same decimals. */
  beside(values: ArrayLike<number>): (value: number) => string;
}

const everyDigit = (value: number, { decimalMark }: Locale) =>
  String(value).replace('-', '−').replace('e−', 'e-').replace('.', decimalMark);

/** What a text says of a figure: signs and noughts at its end tell nothing. */
function toldBy(text: string | undefined, { decimalMark, count }: Locale) {
  const unsigned = text?.replace('+', '');
  const at = unsigned?.lastIndexOf(decimalMark) ?? -1;
  if (!unsigned || at < 0) return unsigned;
  const rest = unsigned.slice(at + decimalMark.length);
  const decimals = /^\p{Nd}*/u.exec(rest)![0];
  let told = decimals.length;
  while (told > 0 && decimals[told - 1] === count(0)) told--;
  const mark = told > 0 ? decimalMark : '';
  return `${unsigned.slice(0, at)}${mark}${decimals.slice(0, told)}${rest.slice(decimals.length)}`;
}

const fewDigits = 6;
const couldBeSet = (value: number) => Number(value.toPrecision(fewDigits)) === value;

/** How figures that were set are written, and those that may have been. */
function setBy(full: (value: number) => string, exact: (value: number) => string, locale: Locale) {
  const asSet = (value: number): string => {
    const [text, whole] = [full(value), exact(value)];
    return toldBy(text, locale) === toldBy(whole, locale) ? text : whole;
  };
  return { asSet, perhapsSet: (value: number) => (couldBeSet(value) ? asSet(value) : full(value)) };
}

const plainWriters = new WeakMap<Locale, FigureWriter>();

function plainWriter(locale: Locale): FigureWriter {
  const known = plainWriters.get(locale);
  if (known) return known;
  const full = (value: number) => numberText(value, locale);
  const exact = (value: number) => exactNumberText(value, locale);
  const writer: FigureWriter = {
    locale,
    full,
    exact,
    ...setBy(full, exact, locale),
    nearest: (value) => everyDigit(value, locale),
    brief: (value) => briefNumberText(value, locale),
    ticks: (values) => tickTexts(values, locale),
    beside: (values) => numberWriter(values, locale),
  };
  plainWriters.set(locale, writer);
  return writer;
}

/** Figures of one sentence: where two that differ would read alike, with all their decimals. */
export function figuresApart(
  { full, exact, nearest, locale }: FigureWriter,
  values: readonly number[],
): string[] {
  // A sign alone tells nobody that +0 is above 0, nor do noughts that 2.00 is below 2.
  const differ = (texts: readonly string[]) =>
    values.every((value, i) =>
      values.every((other, j) => value === other || toldBy(texts[i], locale) !== toldBy(texts[j], locale)),
    );
  const texts = values.map(full);
  if (differ(texts)) return texts;
  const all = values.map(exact);
  return differ(all) ? all : values.map(nearest);
}

const noBreak = '\u00a0';
/** A unit of letters stands off its figure; a sign before it does not. */
const before = (unit: string) => (/\p{L}$/u.test(unit) ? `${unit}${noBreak}` : unit);

const writers = new WeakMap<Locale, WeakMap<FigureFormat, FigureWriter>>();

/** How figures read by the author's word; as plain numbers where there is none. */
export function figureWriter(wanted: WrittenFormat | undefined, locale: Locale): FigureWriter {
  if (!wanted) return plainWriter(locale);
  const ofLocale = writers.get(locale) ?? new WeakMap<FigureFormat, FigureWriter>();
  writers.set(locale, ofLocale);
  const known = ofLocale.get(wanted);
  if (known) return known;
  const { as, decimals, unit, unitAt, signed, from = 0 } = wanted;
  const scaled = (value: number) => {
    const own = from ? decimal(value + from) : value;
    // As it is written: 7 % is 7, not 7.000000000000001.
    return as === 'percent' ? decimal(own * 100) : own;
  };
  const dress = (text: string) => {
    const whole = as === 'percent' ? locale.percent(text) : text;
    if (!unit) return whole;
    if (unitAt !== 'before') return unit === '%' ? locale.percent(whole) : `${whole}${noBreak}${unit}`;
    return whole.startsWith('−') ? `−${before(unit)}${whole.slice(1)}` : `${before(unit)}${whole}`;
  };
  const signedText = (value: number, text: string) => (signed && value > 0 ? `+${dress(text)}` : dress(text));
  const dressed = (write: (value: number) => string) => (value: number) =>
    Number.isNaN(value) ? noValue(locale) : signedText(value, write(scaled(value)));
  const fixed = decimals === undefined ? null : (value: number) => fixedText(value, decimals, locale);
  const short = (value: number) => briefNumberText(value, locale);
  const own = fixed ?? (as === 'brief' ? short : (value: number) => numberText(value, locale));
  const full = dressed(own);
  const exact = dressed((value) => exactNumberText(value, locale, decimals));
  const writer: FigureWriter = {
    locale,
    full,
    exact,
    ...setBy(full, exact, locale),
    nearest: dressed((value) => everyDigit(value, locale)),
    brief: dressed(fixed && as !== 'brief' ? fixed : short),
    ticks: (values) => tickTexts(values.map(scaled), locale).map((text, i) => signedText(values[i]!, text)),
    beside(values) {
      if (fixed || as === 'brief') return dressed(own);
      return dressed(numberWriter(Float64Array.from(values, scaled), locale));
    },
  };
  ofLocale.set(wanted, writer);
  return writer;
}
