import { textOfInstant } from './calendar';
import { type Compiled, FormulaError, sqlTypes } from './compiled';
import { roundTo } from './decimal';
import type { At, Value, ValueType } from './expression';
import { strict } from './fitting';
import { once } from './once';
import { asDecimal } from './scalars';
import { tell } from './tell';

/** A figure as the database writes it: the shortest that reads back, with an exponent where it is very large or small. */
function textOfNumber(value: number): string {
  const size = Math.abs(value);
  if (size === 0 || (size >= 1e-4 && size < 1e15)) return String(value);
  const [digits, exponent = '0'] = value.toExponential().split('e');
  const power = Math.abs(Number(exponent));
  return `${digits}e${exponent.startsWith('-') ? '-' : '+'}${power < 10 ? '0' : ''}${power}`;
}

const numberText = /^[ \t\n]*[-+]?(\d+\.?\d*|\.\d+)([eE][-+]?\d{1,3})?[ \t\n]*$/;
/** The digits that PostgreSQL's numbers can have: beyond that a text is no number anywhere. */
const longestNumber = 1000;
const dateText = /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/;

function dateOf(text: string): string | null {
  if (!dateText.test(text)) return null;
  const instant = Date.parse(text);
  const found = textOfInstant(instant, 'date');
  return found === text ? text : null;
}

/** A number without its decimals, rounded half away from zero. */
export const rounded = (of: Compiled): Compiled =>
  of.whole
    ? of
    : strict(
        'number',
        [of],
        (value: number) => roundTo(value, 0) + 0,
        (x) => `round(${asDecimal(x)})::double precision`,
        { whole: true },
      );

interface Cast {
  apply(value: never): Value;
  sql(text: string): string;
  /** What it gives has no decimals. */
  whole?: true;
}

const finite = (value: number) => (Number.isFinite(value) ? value : null);

const existing = (x: string) =>
  `CASE WHEN ${x} ~ '^\\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\\d|3[01])$' AND right(${x}, 2)::int <= extract(day FROM make_date(left(${x}, 4)::int + CASE WHEN left(${x}, 4) = '0000' THEN 1 ELSE 0 END, substring(${x}, 6, 2)::int, 1) + INTERVAL '1 month - 1 day') AND left(${x}, 4) <> '0000' THEN (${x})::date END`;

/** How a value of one type becomes one of another. What cannot be read as that is null. */
const casts: Partial<Record<ValueType, Partial<Record<ValueType, Cast>>>> = {
  text: {
    number: {
      apply: (text: string) =>
        text.length <= longestNumber && numberText.test(text) ? finite(Number(text) + 0) : null,
      sql: (x) =>
        once(
          x,
          (v) =>
            `CASE WHEN length(${v}) <= ${longestNumber} AND ${v} ~ '^[ \\t\\n]*[-+]?(\\d+\\.?\\d*|\\.\\d+)([eE][-+]?\\d{1,3})?[ \\t\\n]*$' THEN CASE WHEN abs((${v})::numeric) >= 1.7976931348623159e308 THEN NULL WHEN abs((${v})::numeric) <= 2.4703282292062327e-324 THEN 0 ELSE (${v})::double precision END END`,
        ),
    },
    date: { apply: (text: string) => dateOf(text), sql: (x) => once(x, existing) },
  },
  number: {
    text: {
      apply: (value: number) => textOfNumber(value),
      // Minus zero is zero.
      sql: (x) => `(${x} + 0)::text`,
    },
  },
  boolean: {
    text: { apply: (value: boolean) => String(value), sql: (x) => `(${x})::text` },
    number: {
      apply: (value: boolean) => Number(value),
      sql: (x) => `(${x})::int::double precision`,
      whole: true,
    },
  },
  date: {
    text: { apply: (text: string) => text, sql: (x) => `to_char(${x}, 'YYYY-MM-DD')` },
    datetime: { apply: (text: string) => `${text}T00:00:00`, sql: (x) => `(${x})::timestamp` },
  },
  datetime: {
    date: { apply: (text: string) => text.slice(0, 10), sql: (x) => `(${x})::date` },
  },
};

/** A part as another type; asked for by `at` in the formula, or by what stands beside it. */
export function castTo(compiled: Compiled, type: ValueType, at?: At): Compiled {
  if (compiled.type === type) return compiled;
  if (compiled.type === 'null') return { type, run: () => () => null, sql: () => `NULL::${sqlTypes[type]}` };
  const cast = casts[compiled.type]?.[type];
  if (!cast)
    throw new FormulaError(
      tell('cast.impossible', { from: compiled.type, to: type }),
      at ?? { from: 0, to: 0 },
    );
  return {
    type,
    whole: cast.whole ?? false,
    run(rows) {
      const read = compiled.run(rows);
      return (i) => {
        const value = read(i);
        return value === null ? null : cast.apply(value as never);
      };
    },
    sql: (printer) => cast.sql(`(${compiled.sql(printer)})`),
  };
}
