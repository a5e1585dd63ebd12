import { decimal, roundTo } from './decimal';
import type { Value, ValueType } from './expression';
import { once } from './once';

/** A function of values of one row, the same in SQL and here. Null of any argument gives null unless it says otherwise. */
export interface ScalarFunction {
  name: string;
  /** How it is written, for who types it. */
  signature: string;
  takes: ValueType[];
  /** How many of them can be left out at the end. */
  optional?: number;
  gives: ValueType;
  apply(...args: never[]): Value;
  sql(...args: string[]): string;
  /** The same where what would be an error is null. */
  guarded?(...args: string[]): string;
  /** It gives whole numbers, always or of whole ones. */
  whole?: true;
  keepsWhole?: true;
}

const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);

/** A figure as whole units of a power of ten. */
function unitsOf(value: number): { units: bigint; power: number } {
  const [digits = '0', exponent = '0'] = decimal(value).toExponential().split('e');
  const [whole = '0', fraction = ''] = digits.split('.');
  return { units: BigInt(whole + fraction), power: Number(exponent) - fraction.length };
}

/** What is left of a division, in decimals as they are written: of 9 by 0.1 nothing. Null where that has no meaning. */
function remainder(x: number, y: number): number | null {
  const [a, b] = [unitsOf(x), unitsOf(y)];
  if (b.units === 0n) return null;
  const power = Math.min(a.power, b.power);
  const scaled = ({ units, power: own }: typeof a) => units * 10n ** BigInt(own - power);
  return Number(`${scaled(a) % scaled(b)}e${power}`);
}

/** No text reaches farther than this, however far is counted. */
const farthest = 1e15;
const within = (count: number) => Math.max(-farthest, Math.min(farthest, Math.trunc(count)));

const letters = (text: string) => [...text];
const numbers = (count: number): ValueType[] => Array(count).fill('number');
const numeric = (
  name: string,
  signature: string,
  apply: (...args: number[]) => number | null,
  sql: (...args: string[]) => string,
  count = 1,
  optional = 0,
  more: Pick<ScalarFunction, 'whole' | 'keepsWhole' | 'guarded'> = {},
): ScalarFunction => ({
  ...more,
  name,
  signature,
  takes: numbers(count),
  optional,
  gives: 'number',
  apply: apply as ScalarFunction['apply'],
  sql,
});

/**
 * A figure in the database's decimals: there rounding is half away from zero, and remainders are exact. What has decimals
 * is taken with 15 digits, whole numbers with all of theirs.
 */
export const asDecimal = (sql: string): string =>
  once(
    sql,
    (v) => `CASE WHEN ${v} = trunc(${v}) THEN (${v})::text::numeric ELSE (${v})::numeric END`,
    'figure',
  );

/** A whole number within what the database counts texts and digits with; null stays null. */
const counted = (sql: string, most = 2_147_483_647) =>
  once(
    sql,
    (v) => `CASE WHEN ${v} IS NOT NULL THEN greatest(-${most}, least(${most}, trunc(${v})))::int END`,
    'count',
  );

export const scalarFunctions: ScalarFunction[] = [
  numeric('ABS', 'ABS(number)', Math.abs, (x) => `abs(${x})`, 1, 0, { keepsWhole: true }),
  numeric(
    'SIGN',
    'SIGN(number)',
    (x) => Math.sign(x) + 0,
    (x) => `sign(${x})`,
    1,
    0,
    { whole: true },
  ),
  numeric(
    'FLOOR',
    'FLOOR(number)',
    (x) => Math.floor(x) + 0,
    (x) => `floor(${x})`,
    1,
    0,
    { whole: true },
  ),
  numeric(
    'CEIL',
    'CEIL(number)',
    (x) => Math.ceil(x) + 0,
    (x) => `ceil(${x})`,
    1,
    0,
    { whole: true },
  ),
  numeric(
    'CEILING',
    'CEILING(number)',
    (x) => Math.ceil(x) + 0,
    (x) => `ceil(${x})`,
    1,
    0,
    { whole: true },
  ),
  numeric(
    'ROUND',
    'ROUND(number, decimals)',
    (x, decimals = 0) => roundTo(x, decimals) + 0,
    (x, decimals) => `round(${asDecimal(x)}, ${decimals ? counted(decimals, 400) : '0'})::double precision`,
    2,
    1,
    { keepsWhole: true },
  ),
  numeric(
    'SQRT',
    'SQRT(number)',
    (x) => (x < 0 ? null : Math.sqrt(x)),
    (x) => once(x, (v) => `CASE WHEN ${v} >= 0 THEN sqrt(${v}) END`),
  ),
  numeric(
    'LN',
    'LN(number)',
    (x) => (x > 0 ? Math.log(x) : null),
    (x) => once(x, (v) => `CASE WHEN ${v} > 0 THEN ln(${v}) END`),
  ),
  numeric(
    'EXP',
    'EXP(number)',
    (x) => (x > 700 ? null : Math.exp(x)),
    (x) =>
      once(x, (v) => `CASE WHEN ${v} <= 700 AND ${v} >= -700 THEN exp(${v}) WHEN ${v} < -700 THEN 0 END`),
  ),
  numeric(
    'POWER',
    'POWER(number, exponent)',
    (x, y) => ((x === 0 && y < 0) || (x < 0 && !Number.isInteger(y)) ? null : finite(x ** y)),
    (x, y) =>
      once(x, (v) =>
        once(
          y,
          (w) =>
            `CASE WHEN (${v} <> 0 OR ${w} >= 0) AND (${v} >= 0 OR ${w} = trunc(${w})) THEN power(${v}, ${w}) END`,
          'exponent',
        ),
      ),
    2,
    0,
    {
      guarded: (x, y) =>
        once(x!, (v) =>
          once(
            y!,
            (w) =>
              `CASE WHEN (${v} <> 0 OR ${w} >= 0) AND (${v} >= 0 OR ${w} = trunc(${w})) THEN sorvik.arithmetic('^', ${v}, ${w}) END`,
            'exponent',
          ),
        ),
    },
  ),
  numeric(
    'MOD',
    'MOD(number, number)',
    (x, y) => remainder(x, y),
    (x, y) => `mod(${asDecimal(x)}, NULLIF(${asDecimal(y)}, 0))::double precision`,
    2,
    0,
    { keepsWhole: true },
  ),
  {
    name: 'UPPER',
    signature: 'UPPER(text)',
    takes: ['text'],
    gives: 'text',
    apply: (text: string) => text.toUpperCase(),
    sql: (x) => `upper(${x} COLLATE "und-x-icu") COLLATE "C"`,
  },
  {
    name: 'LOWER',
    signature: 'LOWER(text)',
    takes: ['text'],
    gives: 'text',
    apply: (text: string) => text.toLowerCase(),
    sql: (x) => `lower(${x} COLLATE "und-x-icu") COLLATE "C"`,
  },
  {
    name: 'TRIM',
    signature: 'TRIM(text)',
    takes: ['text'],
    gives: 'text',
    apply: (text: string) => text.replace(/^ +| +$/g, ''),
    sql: (x) => `trim(${x})`,
  },
  {
    name: 'CHAR_LENGTH',
    signature: 'CHAR_LENGTH(text)',
    takes: ['text'],
    gives: 'number',
    apply: (text: string) => letters(text).length,
    sql: (x) => `char_length(${x})::double precision`,
    whole: true,
  },
  {
    name: 'SUBSTRING',
    signature: 'SUBSTRING(text FROM first FOR count)',
    takes: ['text', 'number', 'number'],
    optional: 1,
    gives: 'text',
    apply: (text: string, first: number, count?: number) => {
      const from = within(first) - 1;
      if (count === undefined) return letters(text).slice(Math.max(0, from)).join('');
      // Letters before the first count too, as the standard has it; of less than none there are none.
      const to = from + Math.max(0, within(count));
      return letters(text).slice(Math.max(0, from), Math.max(0, to)).join('');
    },
    sql: (x, first, count) => {
      if (count === undefined) return `substring(${x} FROM ${counted(first!)})`;
      const far = (sql: string) => `greatest(-${farthest}, least(${farthest}, trunc(${sql})))`;
      // How many letters are left of those asked for, once what lies before the first one is passed over.
      return once(
        first!,
        (from) =>
          once(
            count,
            (many) =>
              `CASE WHEN ${from} IS NOT NULL AND ${many} IS NOT NULL THEN substring(${x} FROM greatest(1, ${counted(from)}) FOR greatest(0, least(2147483647, least(0, ${far(from)} - 1) + ${far(many)}))::int) END`,
            'many',
          ),
        'first',
      );
    },
  },
  {
    name: 'POSITION',
    signature: 'POSITION(text IN text)',
    takes: ['text', 'text'],
    gives: 'number',
    apply: (part: string, whole: string) => {
      const at = whole.indexOf(part);
      return at < 0 ? 0 : letters(whole.slice(0, at)).length + 1;
    },
    sql: (part, whole) => `position(${part} IN ${whole})::double precision`,
    whole: true,
  },
];

const byName = new Map(scalarFunctions.map((each) => [each.name, each]));
export const scalarFunction = (name: string) => byName.get(name);
