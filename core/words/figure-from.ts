import type { Locale } from '../messages/locale';

/** Where the digits of Arabic and of Persian begin. */
const zeros = [0x660, 0x6f0];
const ownDigit = (digit: string) => {
  const code = digit.codePointAt(0)!;
  const zero = zeros.find((each) => code >= each && code < each + 10);
  return zero === undefined ? digit : String(code - zero);
};
const exchanged = (text: string) => text.replace(/[.,]/g, (mark) => (mark === '.' ? ',' : '.'));

/**
 * Reads a figure as people type or paste it: "1,200", "1 200", "0.8", "0,8", "15 %". A comma or point before exactly
 * three digits parts thousands when it stands more than once or comes with the other one; the locale's mark of
 * thousands does so always, but after a lone zero: no group begins with 0, so "0,645" is less than one.
 * NaN for anything else. `percent` tells that a percent sign followed.
 */
export function figureFrom(text: string, { decimalMark }: Locale): { figure: number; percent: boolean } {
  const percent = /[%٪]\s*$/.test(text);
  const own = text
    .replace(/[%٪]\s*$/, '')
    .replace(/[\s'\u00a0\u202f\u200e\u200f\u061c_٬]/g, '')
    .replace('٫', '.')
    .replace(/^[\u2212\u2013]/, '-')
    .replace(/\p{Nd}/gu, ownDigit);
  // From here on a comma parts thousands, and a point is before decimals.
  let plain = decimalMark === ',' ? exchanged(own) : own;
  const lastComma = plain.lastIndexOf(',');
  const lastPoint = plain.lastIndexOf('.');
  if (lastComma > lastPoint && lastPoint >= 0) plain = plain.replace(/\./g, '').replace(',', '.');
  else if (/^[+-]?0,/.test(plain)) plain = plain.replace(',', '.');
  else plain = plain.replace(/,(?=\d{3}(\D|$))/g, '').replace(',', '.');
  const fits = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain);
  return { figure: fits ? Number(plain) : Number.NaN, percent };
}
