/** How numbers are written in a column. */
export interface NumberFormat {
  decimal: '.' | ',';
  /** The mark between thousands; '' when there is none. A space stands for any kind of space. */
  group: '' | ',' | '.' | ' ' | "'";
}

/** All formats there are, the plainest first. */
export const numberFormats: NumberFormat[] = [
  { decimal: '.', group: '' },
  { decimal: ',', group: '' },
  { decimal: '.', group: ',' },
  { decimal: ',', group: '.' },
  { decimal: '.', group: ' ' },
  { decimal: ',', group: ' ' },
  { decimal: '.', group: "'" },
];

const spaces = '[ \\u00a0\\u2009\\u202f]';

function patterns({ decimal, group }: NumberFormat) {
  const mark = group === ' ' ? spaces : group === '.' ? '\\.' : group;
  // The first group of several never begins with 0: 0.645 is no 645.
  const whole = group ? `(?:[1-9]\\d{0,2}(?:${mark}\\d{3})+|\\d+)` : '\\d+';
  const point = decimal === '.' ? '\\.' : ',';
  return {
    integer: new RegExp(`^[+-]?${whole}$`),
    decimal: new RegExp(`^[+-]?(?:${whole}(?:${point}\\d*)?|${point}\\d+)(?:[eE][+-]?\\d+)?$`),
    marks: mark ? new RegExp(mark, 'g') : null,
  };
}

/** 15 digits are exact in a double; what is longer is a name for something rather than a number. */
const maxDigits = 15;
const leadingZero = /^[+-]?0\d/;

/** Reads one cell into the spelling PostgreSQL takes; undefined when it does not fit. */
export type ReadCell = (cell: string) => string | undefined;

/** True for a few plain digits, as most numbers are written; anything else is looked at more closely. */
function isPlainDigits(cell: string, point: boolean): boolean {
  if (cell.length > maxDigits || cell.length === 0) return false;
  let points = point ? 0 : 1;
  for (let i = 0; i < cell.length; i++) {
    const code = cell.charCodeAt(i);
    if (code >= 48 && code <= 57) continue;
    if (code !== 46 || points++ > 0 || i === 0) return false;
  }
  return true;
}

export function integerReader(format: NumberFormat): ReadCell {
  const { integer, marks } = patterns(format);
  return (cell) => {
    if (isPlainDigits(cell, false)) return cell;
    if (!integer.test(cell)) return undefined;
    const plain = marks ? cell.replace(marks, '') : cell;
    return plain.length > maxDigits + 1 || plain.replace(/^[+-]/, '').length > maxDigits ? undefined : plain;
  };
}

/** Whether a double keeps every digit before the point: a longer number would be rounded without a word. */
function isKept(text: string): boolean {
  const whole = /^[+-]?(\d{16,})/.exec(text)?.[1];
  return whole === undefined || /[eE]/.test(text) || BigInt(whole) === BigInt(Number(whole));
}

export function decimalReader(format: NumberFormat): ReadCell {
  const { decimal, marks } = patterns(format);
  const plainPoint = format.decimal === '.';
  return (cell) => {
    if (isPlainDigits(cell, plainPoint)) return cell;
    if (!decimal.test(cell)) return undefined;
    const plain = marks ? cell.replace(marks, '') : cell;
    const read = format.decimal === ',' ? plain.replace(',', '.') : plain;
    return Number.isFinite(Number(read)) && isKept(read) ? read : undefined;
  };
}

const readers = numberFormats.map((format) => ({
  format,
  readInteger: integerReader(format),
  readDecimal: decimalReader(format),
}));

/** The formats in which every cell of a column is a number. Columns of codes like 00731 are none. */
export function numberFormatsOf(cells: readonly string[]): { format: NumberFormat; integer: boolean }[] {
  if (!cells.length || cells.some((cell) => leadingZero.test(cell))) return [];
  return readers
    .filter(({ readDecimal }) => cells.every((cell) => readDecimal(cell) !== undefined))
    .map(({ format, readInteger }) => ({
      format,
      integer: cells.every((cell) => readInteger(cell) !== undefined),
    }))
    .filter(({ integer }) => integer || !cells.every((cell) => /^[+-]?\d{16,}$/.test(cell)));
}

/** One way of reading the numbers of a column, and what it makes of each of some cells. */
export interface NumberReading {
  format: NumberFormat;
  values: number[];
}

/** The formats that read some cell differently; one of each kind. A single one leaves no doubt. */
export function readingsOfNumbers(
  formats: readonly NumberFormat[],
  cells: readonly string[],
): NumberReading[] {
  const found = new Map<string, NumberReading>();
  for (const format of formats) {
    const read = decimalReader(format);
    const values = cells.map((cell) => Number(read(cell)));
    const same = values.join();
    // Of formats that agree on what is there, the one with a mark for thousands also takes what may follow.
    const before = found.get(same);
    if (!before || (before.format.group === '' && format.group !== '')) found.set(same, { format, values });
  }
  return [...found.values()];
}
