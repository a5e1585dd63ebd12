import { decimal, roundTo } from '@sorvik/formula/decimal';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';

const mostDecimals = 15;
/** Whole numbers up to here are exact, and are written in full. */
const exactWhole = Number.MAX_SAFE_INTEGER;
/** Larger figures, and those nearer to zero, are written with an exponent. */
const largest = 1e15;
const smallest = 0.0005;

/** What stands for a figure that is not there. */
export const noValue = (locale: Locale): string => say(locale, 'noValue');

/** A plain number as text, with the locale's decimal mark and a real minus sign; that of an exponent stays short. */
const inLocale = (text: string, { decimalMark }: Locale) =>
  text.replace('-', '−').replace('e−', 'e-').replace('.', decimalMark);

/** Four digits and an exponent: "1.5e+21". */
const scientific = (value: number, locale: Locale) =>
  inLocale(value.toExponential(3).replace(/\.?0+(?=e)/, ''), locale);

/** A figure with a number of decimals, rounded half away from zero on both sides; thousands marked, a real minus sign. */
export const fixedText = (value: number, decimals: number, locale: Locale): string =>
  locale.fixed(roundTo(value, decimals), Math.min(mostDecimals, decimals));

const sized = (size: number) => (size >= 1000 ? 0 : size >= 100 ? 1 : 2);
/** The decimals that a figure deserves by its size, once it is rounded: 999.96 is 1,000. */
function decimalsFor(value: number): number {
  const size = Math.abs(value);
  return sized(roundTo(size, sized(size)));
}

const isHuge = (value: number) => Math.abs(value) >= largest && !isExactWhole(value);
const isExactWhole = (value: number) => Number.isInteger(value) && Math.abs(value) <= exactWhole;
const isTiny = (value: number) => value !== 0 && Math.abs(value) < smallest;

/** A figure for reading: thousands marked, as many decimals as its size deserves, a real minus sign. NaN is "no value". */
export function numberText(value: number, locale: Locale): string {
  if (Number.isNaN(value)) return noValue(locale);
  if (isHuge(value) || isTiny(value)) return scientific(value, locale);
  if (Number.isInteger(value)) return fixedText(value, 0, locale);
  return Math.abs(value) < 0.005
    ? exactNumberText(Number(value.toPrecision(2)), locale)
    : fixedText(value, decimalsFor(value), locale);
}

/** A figure with all its decimals (15 digits), at least so many: for tips, workings, and where two would look alike. */
export function exactNumberText(value: number, locale: Locale, least = 0): string {
  if (Number.isNaN(value)) return noValue(locale);
  const text = String(decimal(value));
  if (text.includes('e')) return inLocale(text, locale);
  const decimals = text.split('.')[1]?.length ?? 0;
  return Math.abs(value) < 1e21 && decimals <= mostDecimals
    ? locale.fixed(decimal(value), Math.max(least, decimals))
    : scientific(value, locale);
}

/** A figure as programs read it: the shortest decimals of its 15 digits, whole numbers in full. */
export const plainNumber = (value: number): string => String(decimal(value));

/**
 * How to write figures that stand beside each other: all with the decimals that the largest of them deserves, but for
 * those of which that would leave less than two digits.
 */
export function numberWriter(values: ArrayLike<number>, locale: Locale): (value: number) => string {
  const own = (value: number) => numberText(value, locale);
  let most = 0;
  let integers = true;
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    if (Number.isNaN(value)) continue;
    integers &&= Number.isInteger(value);
    most = Math.max(most, Math.abs(value));
  }
  if (integers || most >= largest || most < 0.1) return own;
  const decimals = decimalsFor(most);
  const least = 10 ** (1 - decimals);
  return (value) =>
    Number.isNaN(value) || (value !== 0 && Math.abs(value) < least && !Number.isInteger(value))
      ? own(value)
      : fixedText(value, decimals, locale);
}

/** Figures below this are written in full. */
const shortFrom = 10_000;
function unitOf(size: number, { units }: Locale) {
  const one = units.at(-1)!;
  return size < shortFrom ? one : (units.find((unit) => size >= unit.size) ?? one);
}

/** A share in few letters: a tenth of a percent below ten. */
export const briefShareText = (share: number, locale: Locale): string =>
  Number.isNaN(share)
    ? noValue(locale)
    : locale.percent(fixedText(decimal(share * 100), share < 0.1 ? 1 : 0, locale));

/** Decimals with which figures are written to within `slack`, up to `most`; undefined where those are not enough. */
function decimalsNeeded(figures: readonly number[], slack: number, most: number): number | undefined {
  for (let decimals = 0; decimals <= most; decimals++)
    if (figures.every((figure) => Math.abs(roundTo(figure, decimals) - figure) <= slack)) return decimals;
  return undefined;
}

/** Decimals that a figure may have in thousands or millions before it is written in full. */
const mostInUnits = 2;

/** One figure of an axis by itself, in the largest unit that takes no more than two decimals. */
function tickText(value: number, locale: Locale): string {
  const { units } = locale;
  const size = Math.abs(value);
  if (size >= 1e18 || (size > 0 && size < 1e-9)) return exactNumberText(value, locale);
  const from = units.indexOf(unitOf(size, locale));
  for (const { size: unit, write } of units.slice(from, -1)) {
    const decimals = decimalsNeeded([value / unit], (size / unit) * 1e-11, mostInUnits);
    if (decimals !== undefined) return write(fixedText(value / unit, decimals, locale));
  }
  return exactNumberText(value, locale);
}

/**
 * The figures of an axis: in one unit, and with as many digits as tell each from its neighbours. Where they are far
 * apart, as on a logarithmic axis, each has a unit of its own.
 */
export function tickTexts(ticks: readonly number[], locale: Locale): string[] {
  const { units } = locale;
  const sizes = ticks.map(Math.abs).filter((size) => size > 0);
  const most = Math.max(0, ...sizes);
  const own = most >= 1e18 || most < 1e-9 || Math.min(...sizes) * 2000 < most;
  if (own) return ticks.map((tick) => tickText(tick, locale));
  const steps = ticks.slice(1).map((tick, i) => Math.abs(tick - ticks[i]!));
  const slack = Math.min(most, ...steps) * 1e-3;
  for (const { size, write } of units.slice(units.indexOf(unitOf(most, locale)))) {
    const scaled = ticks.map((tick) => tick / size);
    const decimals = decimalsNeeded(scaled, slack / size, size > 1 ? mostInUnits : 12);
    if (decimals === undefined) continue;
    return scaled.map((tick) => (tick === 0 ? locale.count(0) : write(fixedText(tick, decimals, locale))));
  }
  const exact = ticks.map((tick) => exactNumberText(tick, locale));
  // Nearer to each other than 15 digits can tell.
  return new Set(exact).size < ticks.length ? ticks.map(String) : exact;
}

/** A figure in as few letters as will do beside a mark: "203K", "9.81M"; small ones as they are. */
export function briefNumberText(value: number, locale: Locale): string {
  const size = Math.abs(value);
  if (Number.isNaN(value) || size < shortFrom || size >= 1e18) return numberText(value, locale);
  // Three digits; what is rounded up to the next unit is written in it.
  const rounded = Number(value.toPrecision(3));
  const { size: unit, write } = unitOf(Math.abs(rounded), locale);
  return write(exactNumberText(rounded / unit, locale));
}
