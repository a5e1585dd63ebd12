import { decimal } from '@sorvik/formula/decimal';
import type { Locale } from '../messages/locale';
import { fixedText } from '../words/number-text';
import { decimalsOf } from './steps';

interface Written {
  step: number;
  decimals?: number;
  unit?: string;
}

/** What was typed more exactly than the steps are is written with its own decimals, up to so many. */
const mostDecimals = 10;
const decimalsFor = (figure: number, least: number): number =>
  Math.max(least, Math.min(mostDecimals, decimalsOf(figure)));

/** A figure with the decimals of its lever, or its own where it has more, and its unit: "0.5 €", "1,200". */
export function leverFigureText({ step, decimals, unit }: Written, figure: number, locale: Locale): string {
  const text = fixedText(figure, decimalsFor(figure, decimals ?? decimalsOf(step)), locale);
  if (unit === '%') return locale.percent(text);
  return unit ? `${text} ${unit}` : text;
}

/** A share with as many decimals of a percent as its step needs, or it has itself: "12.5%". */
export function shareText(step: number, share: number, locale: Locale): string {
  const percent = decimal(share * 100);
  return locale.percent(fixedText(percent, decimalsFor(percent, Math.max(0, decimalsOf(step) - 2)), locale));
}
