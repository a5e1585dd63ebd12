import { format } from 'd3-format';

const whole = format(',d');
const oneDecimal = format(',.1f');
const twoDecimals = format(',.2f');
const short = format('.3~s');
const scientific = format('.3~e');

/** A figure for reading: thousands marked, as many decimals as its size deserves, a real minus sign. NaN is "no value". */
export function numberText(value: number): string {
  if (Number.isNaN(value)) return 'no value';
  const size = Math.abs(value);
  if (size >= 1e15 || (size > 0 && size < 0.005)) return scientific(value);
  if (Number.isInteger(value)) return whole(value);
  return size >= 1000 ? whole(Math.round(value)) : size >= 100 ? oneDecimal(value) : twoDecimals(value);
}

/** How to write figures that stand beside each other: all with the decimals that the largest of them deserves. */
export function numberWriter(values: ArrayLike<number>): (value: number) => string {
  let largest = 0;
  let integers = true;
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    if (Number.isNaN(value)) continue;
    integers &&= Number.isInteger(value);
    largest = Math.max(largest, Math.abs(value));
  }
  if (integers || largest >= 1e15 || largest < 0.1) return numberText;
  const write = largest >= 1000 ? whole : largest >= 100 ? oneDecimal : twoDecimals;
  return (value) => (Number.isNaN(value) ? numberText(value) : write(value));
}

const thousandMarks: Record<string, string> = { k: ' k', M: ' M', G: ' bn', T: ' tn' };

/** A figure for an axis: "1.2 M", "40 k", "0.25". */
export function shortNumberText(value: number): string {
  if (value === 0) return '0';
  const size = Math.abs(value);
  if (size < 1) return format('~g')(value);
  if (size < 10_000) return format(',~g')(value);
  return short(value).replace(/[kMGT]$/, (mark) => thousandMarks[mark]!);
}

/** A figure in as few letters as will do beside a mark: "203 k", "9.81 M"; small ones as they are. */
export const briefNumberText = (value: number): string =>
  Math.abs(value) >= 10_000 ? shortNumberText(value) : numberText(value);
