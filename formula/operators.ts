import { addUnits, instantOf, microsOf, textOfInstant } from './calendar';
import { castTo } from './casts';
import { common } from './common-type';
import { compareValues } from './compare';
import { type Compiled, type Compiling, FormulaError, sqlTypes } from './compiled';
import { type BinaryOp, comparisonOps, type Expression, type Value } from './expression';
import { allWhole, inOrder, isTime, must, placed, strict, type Type, typedNull } from './fitting';
import { likePattern } from './like';
import { once } from './once';
import { tell } from './tell';

const finite = (value: number) => (Number.isFinite(value) ? value : null);
const arithmetic: Record<
  string,
  [apply: (a: number, b: number) => number | null, sql: (a: string, b: string) => string]
> = {
  '+': [(a, b) => finite(a + b), (a, b) => `${a} + ${b}`],
  '-': [(a, b) => finite(a - b), (a, b) => `${a} - ${b}`],
  '*': [(a, b) => finite(a * b), (a, b) => `${a} * ${b}`],
  '/': [(a, b) => (b === 0 ? null : finite(a / b)), (a, b) => `${a} / NULLIF(${b}, 0)`],
};
/** The same where what is too large is null, and what is too small zero. */
const guardedArithmetic = (op: string) => (a: string, b: string) =>
  `sorvik.arithmetic('${op}', ${a}, ${op === '/' ? `NULLIF(${b}, 0)` : b})`;
const comparisons: Record<string, (order: number) => boolean> = {
  '=': (order) => order === 0,
  '<>': (order) => order !== 0,
  '<': (order) => order < 0,
  '<=': (order) => order <= 0,
  '>': (order) => order > 0,
  '>=': (order) => order >= 0,
};

/** Two parts joined by an operator. */
export function binary(expression: Extract<Expression, { kind: 'binary' }>, within: Compiling): Compiled {
  const { op, left, right } = expression;
  if ((op === '+' || op === '-') && (right.kind === 'interval' || left.kind === 'interval'))
    return shift(expression, within);
  const [a, b] = [within.of(left), within.of(right)];
  if (op === 'AND' || op === 'OR')
    return logic(
      op,
      must(a, 'boolean', left, { place: 'before', of: op }),
      must(b, 'boolean', right, { place: 'after', of: op }),
    );
  if (op === '||')
    return strict(
      'text',
      [
        must(a, 'text', left, { place: 'before', of: op }),
        must(b, 'text', right, { place: 'after', of: op }),
      ],
      (x: string, y: string) => x + y,
      (x, y) => `${x} || ${y}`,
    );
  if (op === 'LIKE' || op === 'NOT LIKE') {
    const parts = [
      must(a, 'text', left, { place: 'before', of: 'LIKE' }),
      must(b, 'text', right, { place: 'pattern' }),
    ];
    return strict(
      'boolean',
      parts,
      (x: string, y: string) => {
        const pattern = likePattern(y);
        return pattern && pattern.test(x) === (op === 'LIKE');
      },
      // A pattern that ends in a backslash takes the meaning of nothing away: it is none. The database only finds that out
      // where a text reaches so far.
      right.kind === 'value' && likePattern(String(right.value)) !== null
        ? (x, y) => `${x} ${op} ${y}`
        : (x, y) =>
            once(
              y,
              (p) => `CASE WHEN (length(${p}) - length(rtrim(${p}, '\\'))) % 2 = 0 THEN ${x} ${op} ${p} END`,
            ),
    );
  }
  if (op === '-' && isTime(a.type) && isTime(b.type)) return daysBetween(a, b);
  const calculation = arithmetic[op];
  if (calculation) {
    const sides = [
      must(a, 'number', left, { place: 'before', of: op }),
      must(b, 'number', right, { place: 'after', of: op }),
    ];
    return strict('number', sides, calculation[0], calculation[1], {
      whole: op !== '/' && allWhole(sides),
      guarded: guardedArithmetic(op),
    });
  }
  const { type, parts } = common(
    [
      { compiled: a, at: left },
      { compiled: b, at: right },
    ],
    { place: 'compared' },
  );
  return op === 'IS DISTINCT FROM' || op === 'IS NOT DISTINCT FROM'
    ? distinct(parts[0]!, parts[1]!, op)
    : compared(type, parts[0]!, parts[1]!, op);
}

function compared(type: Type, a: Compiled, b: Compiled, op: BinaryOp): Compiled {
  if (!comparisonOps.includes(op as '=')) throw new Error(`${op} compares nothing.`);
  const meets = comparisons[op]!;
  return strict(
    'boolean',
    [a, b],
    (x: Value, y: Value) => meets(compareValues(x, y)),
    (x, y) => `${inOrder(type, x)} ${op} ${y}`,
  );
}

function distinct(a: Compiled, b: Compiled, op: string): Compiled {
  const wanted = op === 'IS DISTINCT FROM';
  return {
    type: 'boolean',
    run(rows) {
      const [x, y] = [a.run(rows), b.run(rows)];
      return (i) => (x(i) !== y(i)) === wanted;
    },
    sql: (printer) => `(${a.sql(printer)}) ${op} (${b.sql(printer)})`,
  };
}

/** AND and OR of three-valued logic: what is not known can be outdone by the other side. */
function logic(op: 'AND' | 'OR', a: Compiled, b: Compiled): Compiled {
  const decides = op === 'OR';
  return {
    type: 'boolean',
    run(rows) {
      const [x, y] = [a.run(rows), b.run(rows)];
      return (i) => {
        const left = x(i);
        if (left === decides) return decides;
        const right = y(i);
        if (right === decides) return decides;
        return left === null || right === null ? null : !decides;
      };
    },
    sql: (printer) => `(${a.sql(printer)}) ${op} (${b.sql(printer)})`,
  };
}

function daysBetween(a: Compiled, b: Compiled): Compiled {
  const parts = [castTo(a, 'datetime'), castTo(b, 'datetime')];
  return strict(
    'number',
    parts,
    (x: string, y: string) =>
      (instantOf(x) - instantOf(y)) / 86_400_000 + (microsOf(x) - microsOf(y)) / 86_400_000_000,
    (x, y) => `(extract(epoch FROM ${x} - ${y}) / 86400)::double precision`,
    { whole: a.type === 'date' && b.type === 'date' },
  );
}

/** Years of one to four digits are those that fields can have; any other is null. */
const withinYears = (sql: string, type: 'date' | 'datetime') =>
  once(
    sql,
    (v) =>
      `CASE WHEN ${v} >= ${sqlTypes[type]} '0001-01-01' AND ${v} < ${sqlTypes[type]} '10000-01-01' THEN ${v} END`,
  );

function shift(expression: Extract<Expression, { kind: 'binary' }>, within: Compiling): Compiled {
  const { op, left, right } = expression;
  const [date, interval] = right.kind === 'interval' ? [left, right] : [right, left];
  if (interval.kind !== 'interval' || date.kind === 'interval' || (op === '-' && right.kind !== 'interval'))
    throw new FormulaError(tell('interval.two'), expression);
  const of = within.of(date);
  if (!isTime(of.type) && of.type !== 'null')
    throw new FormulaError(tell('interval.noDate', { is: of.type }), date);
  const { unit } = interval;
  const count = op === '-' ? -interval.count : interval.count;
  const type = of.type === 'date' && ['YEAR', 'MONTH', 'DAY'].includes(unit) ? 'date' : 'datetime';
  return strict(
    type,
    [of.type === 'null' ? typedNull('date') : of],
    (text: string) => textOfInstant(addUnits(instantOf(text), count, unit), type, microsOf(text)),
    (x) => withinYears(`(${x} + (${count} * INTERVAL '1 ${unit}'))::${sqlTypes[type]}`, type),
    {
      guarded: (x) =>
        withinYears(`sorvik.shifted((${x})::timestamp, ${count}, '${unit}')::${sqlTypes[type]}`, type),
    },
  );
}

/** One of several values, by three-valued logic: of what is not there, a null makes nothing known. */
export function isIn(type: Type, of: Compiled, list: readonly Compiled[], negated: boolean): Compiled {
  return {
    type: 'boolean',
    run(rows) {
      const read = of.run(rows);
      const others = list.map((each) => each.run(rows));
      return (i) => {
        const value = read(i);
        if (value === null) return null;
        let unknown = false;
        for (const other of others) {
          const found = other(i);
          if (found === null) unknown = true;
          else if (compareValues(value, found) === 0) return !negated;
        }
        return unknown ? null : negated;
      };
    },
    sql: (printer) =>
      once(
        `(${of.sql(printer)})`,
        (value) =>
          `${inOrder(type, value)} ${negated ? 'NOT ' : ''}IN (${list.map((each) => each.sql(printer)).join(', ')})`,
      ),
  };
}

/** Whether something lies between two others, both included; computed once, though it is compared twice. */
export function between(expression: Extract<Expression, { kind: 'between' }>, within: Compiling): Compiled {
  const { type, parts } = common(
    [expression.of, expression.low, expression.high].map((part) => placed(part, within.of)),
    { place: 'compared' },
  );
  const [of, low, high] = parts as [Compiled, Compiled, Compiled];
  const { negated } = expression;
  return {
    type: 'boolean',
    run(rows) {
      const [value, from, to] = [of.run(rows), low.run(rows), high.run(rows)];
      return (i) => {
        const held = value(i);
        if (held === null) return null;
        const [least, most] = [from(i), to(i)];
        // One end that it is beyond decides, whatever the other one is.
        if (least !== null && compareValues(held, least) < 0) return negated;
        if (most !== null && compareValues(held, most) > 0) return negated;
        return least === null || most === null ? null : !negated;
      };
    },
    sql: (printer) =>
      once(
        `(${of.sql(printer)})`,
        (value) =>
          `${inOrder(type, value)} ${negated ? 'NOT ' : ''}BETWEEN (${low.sql(printer)}) AND (${high.sql(printer)})`,
      ),
  };
}
