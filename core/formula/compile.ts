import { aggregateFunction, aggregateFunctions, isAggregate, orderedAggregates } from './aggregates';
import { addUnits, dateParts, instantOf, textOfInstant, truncations } from './calendar';
import { castTo } from './casts';
import { compareValues } from './compare';
import { type Compiled, FormulaError, type Scope, sqlTypes, typeNames } from './compiled';
import type { At, BinaryOp, Expression, Over, Value, ValueType } from './expression';
import { comparisonOps } from './expression';
import { likePattern } from './like';
import { nearestName } from './nearest-name';
import { type ScalarFunction, scalarFunction, scalarFunctions } from './scalars';
import { aggregateOver, type CompiledOver, windowFunction, windowFunctions, windowValues } from './windows';

type Type = ValueType | 'null';
type Read = (index: number) => Value;

const special = ['COALESCE', 'NULLIF', 'GREATEST', 'LEAST', 'EXTRACT', 'DATE_TRUNC', 'CURRENT_DATE'];
const isTime = (type: Type) => type === 'date' || type === 'datetime';
const fits = (type: Type, wanted: Type) => type === wanted || type === 'null' || wanted === 'null';

const must = (compiled: Compiled, wanted: ValueType, at: At, what: string): Compiled => {
  if (!fits(compiled.type, wanted))
    throw new FormulaError(
      `${what} has to be ${typeNames[wanted]}, and this is ${typeNames[compiled.type]}.`,
      at,
    );
  return compiled.type === 'null' ? typedNull(wanted) : compiled;
};

const typedNull = (type: Type): Compiled => ({
  type,
  run: () => () => null,
  sql: () => `NULL::${sqlTypes[type]}`,
});

/** One type for several parts: they are of one, or nothing; a date beside a date-time becomes one. */
function common(
  parts: readonly { compiled: Compiled; at: At }[],
  what: string,
): { type: Type; parts: Compiled[] } {
  let type: Type = 'null';
  for (const { compiled, at } of parts) {
    if (compiled.type === 'null' || compiled.type === type) continue;
    if (type === 'null') type = compiled.type;
    else if (isTime(type) && isTime(compiled.type)) type = 'datetime';
    else throw new FormulaError(`${what}: ${typeNames[type]} stands beside ${typeNames[compiled.type]}.`, at);
  }
  return {
    type,
    parts: parts.map(({ compiled }) =>
      compiled.type === type
        ? compiled
        : compiled.type === 'null'
          ? typedNull(type)
          : castTo(compiled, 'datetime'),
    ),
  };
}

/** A value of each row from those of others, where none of them is null. */
const strict = (
  type: Type,
  parts: readonly Compiled[],
  apply: (...args: never[]) => Value,
  sql: (...args: string[]) => string,
): Compiled => ({
  type,
  run(rows) {
    const reads = parts.map((part) => part.run(rows));
    if (reads.length === 1) {
      const [only] = reads;
      return (i) => {
        const value = only!(i);
        return value === null ? null : apply(value as never);
      };
    }
    if (reads.length === 2) {
      const [first, second] = reads;
      return (i) => {
        const a = first!(i);
        if (a === null) return null;
        const b = second!(i);
        return b === null ? null : apply(a as never, b as never);
      };
    }
    return (i) => {
      const args = reads.map((read) => read(i));
      return args.includes(null) ? null : apply(...(args as never[]));
    };
  },
  sql: (printer) => sql(...parts.map((part) => `(${part.sql(printer)})`)),
});

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
const comparisons: Record<string, (order: number) => boolean> = {
  '=': (order) => order === 0,
  '<>': (order) => order !== 0,
  '<': (order) => order < 0,
  '<=': (order) => order <= 0,
  '>': (order) => order > 0,
  '>=': (order) => order >= 0,
};
const inOrder = (type: Type, sql: string) => (type === 'text' ? `${sql} COLLATE "C"` : sql);

/** Checks a formula and gives it its one meaning. Throws a `FormulaError` with the place of what is wrong. */
export function compile(expression: Expression, scope: Scope): Compiled {
  const inner = (part: Expression) => compile(part, scope);
  const withPlace = (part: Expression) => ({ compiled: inner(part), at: part });
  switch (expression.kind) {
    case 'value': {
      const { type, value } = expression;
      return { type, run: () => () => value, sql: (printer) => printer.value(value, type) };
    }
    case 'interval':
      throw new FormulaError(
        "An interval is added to a date or taken from it: day + INTERVAL '3' DAY.",
        expression,
      );
    case 'name':
      return columnOf(expression, scope);
    case 'lever':
      return leverOf(expression, scope, false);
    case 'unary':
      if (expression.op === 'NOT')
        return strict(
          'boolean',
          [must(inner(expression.of), 'boolean', expression.of, 'What follows NOT')],
          (a: boolean) => !a,
          (a) => `NOT ${a}`,
        );
      return strict(
        'number',
        [must(inner(expression.of), 'number', expression.of, `What follows ${expression.op}`)],
        (a: number) => (expression.op === '-' ? -a + 0 : a),
        (a) => `${expression.op} ${a}`,
      );
    case 'binary':
      return binary(expression, scope);
    case 'isNull': {
      const of = inner(expression.of);
      const { negated } = expression;
      return {
        type: 'boolean',
        run(rows) {
          const read = of.run(rows);
          return (i) => (read(i) === null) !== negated;
        },
        sql: (printer) => `(${of.sql(printer)}) IS ${negated ? 'NOT ' : ''}NULL`,
      };
    }
    case 'between': {
      const { of, low, high } = expression;
      const both: Expression = {
        ...expression,
        kind: 'binary',
        op: 'AND',
        left: { from: of.from, to: low.to, kind: 'binary', op: '>=', left: of, right: low },
        right: { from: of.from, to: high.to, kind: 'binary', op: '<=', left: of, right: high },
      };
      return inner(expression.negated ? { ...expression, kind: 'unary', op: 'NOT', of: both } : both);
    }
    case 'in': {
      if (expression.bare)
        throw new FormulaError('What follows IN stands in brackets: IN (1, 2).', expression.list[0]!);
      const { type, parts } = common([expression.of, ...expression.list].map(withPlace), 'What IN compares');
      return isIn(type, parts[0]!, parts.slice(1), expression.negated);
    }
    case 'anyOf':
      return anyOf(expression, scope);
    case 'case':
      return caseOf(expression, scope);
    case 'cast':
      return castTo(inner(expression.of), expression.as, expression);
    case 'call':
      return call(expression, scope);
  }
}

function columnOf(expression: Extract<Expression, { kind: 'name' }>, scope: Scope): Compiled {
  const { name, quoted } = expression;
  if (!quoted && name.toUpperCase() === 'CURRENT_DATE')
    return {
      type: 'date',
      run: (rows) => () => rows.today,
      sql: () => 'CURRENT_DATE',
    };
  const found = scope.column(name);
  if (!found) {
    const near = nearestName(name, scope.names());
    throw new FormulaError(
      scope.whyNot?.(name) ?? `There is no field "${name}" here.${near ? ` Is ${near} meant?` : ''}`,
      expression,
    );
  }
  return {
    type: found.type,
    run: (rows) => rows.column(found.ref),
    sql: (printer) => printer.column(found.ref),
  };
}

function leverOf(expression: Extract<Expression, { kind: 'lever' }>, scope: Scope, list: boolean): Compiled {
  const { name, part } = expression;
  const found = scope.lever(name, part);
  if (typeof found === 'string') {
    const near = nearestName(name, scope.levers());
    throw new FormulaError(`${found}${near && near !== name ? ` Is :${near} meant?` : ''}`, expression);
  }
  if (found.list && !list)
    throw new FormulaError(
      `:${name} holds several values: ask for one of them, = ANY (:${name}).`,
      expression,
    );
  const one = (value: Value | readonly Value[]): Value => (Array.isArray(value) ? null : (value as Value));
  return {
    type: found.type,
    run(rows) {
      const value = one(rows.lever(name, part));
      return () => value;
    },
    sql: (printer) => printer.value(one(printer.lever(name, part)), found.type),
  };
}

function binary(expression: Extract<Expression, { kind: 'binary' }>, scope: Scope): Compiled {
  const { op, left, right } = expression;
  if ((op === '+' || op === '-') && (right.kind === 'interval' || left.kind === 'interval'))
    return shift(expression, scope);
  const [a, b] = [compile(left, scope), compile(right, scope)];
  if (op === 'AND' || op === 'OR')
    return logic(
      op,
      must(a, 'boolean', left, `What stands before ${op}`),
      must(b, 'boolean', right, `What follows ${op}`),
    );
  if (op === '||')
    return strict(
      'text',
      [must(a, 'text', left, 'What stands before ||'), must(b, 'text', right, 'What follows ||')],
      (x: string, y: string) => x + y,
      (x, y) => `${x} || ${y}`,
    );
  if (op === 'LIKE' || op === 'NOT LIKE') {
    const parts = [must(a, 'text', left, 'What stands before LIKE'), must(b, 'text', right, 'A pattern')];
    return strict(
      'boolean',
      parts,
      (x: string, y: string) => likePattern(y).test(x) === (op === 'LIKE'),
      (x, y) => `${x} ${op} ${y}`,
    );
  }
  if (op === '-' && isTime(a.type) && isTime(b.type)) return daysBetween(a, b);
  const calculation = arithmetic[op];
  if (calculation)
    return strict(
      'number',
      [must(a, 'number', left, `What stands before ${op}`), must(b, 'number', right, `What follows ${op}`)],
      calculation[0],
      calculation[1],
    );
  const { type, parts } = common(
    [
      { compiled: a, at: left },
      { compiled: b, at: right },
    ],
    'What is compared',
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
    (x: string, y: string) => (instantOf(x) - instantOf(y)) / 86_400_000,
    (x, y) => `(extract(epoch FROM ${x} - ${y}) / 86400)::double precision`,
  );
}

function shift(expression: Extract<Expression, { kind: 'binary' }>, scope: Scope): Compiled {
  const { op, left, right } = expression;
  const [date, interval] = right.kind === 'interval' ? [left, right] : [right, left];
  if (interval.kind !== 'interval' || date.kind === 'interval' || (op === '-' && right.kind !== 'interval'))
    throw new FormulaError('An interval is added to a date, or taken from one.', expression);
  const of = compile(date, scope);
  if (!isTime(of.type) && of.type !== 'null')
    throw new FormulaError(`An interval is added to a date, and this is ${typeNames[of.type]}.`, date);
  const { unit } = interval;
  const count = op === '-' ? -interval.count : interval.count;
  const type = of.type === 'date' && ['YEAR', 'MONTH', 'DAY'].includes(unit) ? 'date' : 'datetime';
  return strict(
    type,
    [of.type === 'null' ? typedNull('date') : of],
    (text: string) => textOfInstant(addUnits(instantOf(text), count, unit), type),
    (x) => `(${x} + (${count} * INTERVAL '1 ${unit}'))::${sqlTypes[type]}`,
  );
}

/** One of several values, by three-valued logic: of what is not there, a null makes nothing known. */
function isIn(type: Type, of: Compiled, list: readonly Compiled[], negated: boolean): Compiled {
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
      `${inOrder(type, `(${of.sql(printer)})`)} ${negated ? 'NOT ' : ''}IN (${list.map((each) => each.sql(printer)).join(', ')})`,
  };
}

function anyOf(expression: Extract<Expression, { kind: 'anyOf' }>, scope: Scope): Compiled {
  const { lever } = expression;
  if (lever.kind !== 'lever') throw new FormulaError('ANY takes a lever: = ANY (:routes).', lever);
  const held = leverOf(lever, scope, true);
  const of = compile(expression.of, scope);
  if (!fits(of.type, held.type))
    throw new FormulaError(
      `:${lever.name} holds ${typeNames[held.type]}, and what is compared is ${typeNames[of.type]}.`,
      expression.of,
    );
  const listOf = (value: Value | readonly Value[]) =>
    Array.isArray(value) ? (value as Value[]) : [value as Value];
  return {
    type: 'boolean',
    run(rows) {
      const read = of.run(rows);
      const values = new Set(listOf(rows.lever(lever.name, lever.part)));
      const unknown = values.has(null);
      return (i) => {
        const value = read(i);
        if (!values.size) return false;
        if (value === null) return null;
        return values.has(value) ? true : unknown ? null : false;
      };
    },
    sql: (printer) => {
      const type = held.type === 'null' ? 'text' : held.type;
      return `(${of.sql(printer)}) = ANY (${printer.list(listOf(printer.lever(lever.name, lever.part)), type)})`;
    },
  };
}

function caseOf(expression: Extract<Expression, { kind: 'case' }>, scope: Scope): Compiled {
  const { of, when } = expression;
  const tests = when.map(({ is }) =>
    of
      ? compile({ ...is, kind: 'binary', op: '=', left: of, right: is } as Expression, scope)
      : must(compile(is, scope), 'boolean', is, 'What follows WHEN'),
  );
  const results = [...when.map(({ then }) => then), ...(expression.else ? [expression.else] : [])];
  const { type, parts } = common(
    results.map((part) => ({ compiled: compile(part, scope), at: part })),
    'What CASE gives',
  );
  const other = expression.else ? parts.at(-1)! : typedNull(type);
  return {
    type,
    run(rows) {
      const is = tests.map((test) => test.run(rows));
      const then = parts.map((part) => part.run(rows));
      const rest = other.run(rows);
      return (i) => {
        const found = is.findIndex((test) => test(i) === true);
        return found < 0 ? rest(i) : then[found]!(i);
      };
    },
    sql: (printer) =>
      `CASE ${tests.map((test, k) => `WHEN ${test.sql(printer)} THEN ${parts[k]!.sql(printer)}`).join(' ')} ELSE ${other.sql(printer)} END`,
  };
}

type Call = Extract<Expression, { kind: 'call' }>;

function call(expression: Call, scope: Scope): Compiled {
  const { name, args, over } = expression;
  const scalar = scalarFunction(name);
  if (over) return windowed(expression, over, scope);
  if (scalar) return scalarCall(expression, scalar, scope);
  if (isAggregate(name)) return aggregated(expression, scope);
  if (windowFunction(name))
    throw new FormulaError(`${name} looks at other rows: it needs OVER (ORDER BY ..).`, expression);
  const parts = () => args.map((arg) => ({ compiled: compile(arg, scope), at: arg }));
  const takes = (least: number, most: number) => {
    if (args.length < least || args.length > most)
      throw new FormulaError(
        `${name} takes ${least === most ? least : `${least} or more`} values, not ${args.length}.`,
        expression,
      );
  };
  if (name === 'COALESCE' || name === 'GREATEST' || name === 'LEAST') {
    takes(1, 50);
    const found = common(parts(), `What ${name} takes`);
    return firstKnown(name, found.type, found.parts);
  }
  if (name === 'NULLIF') {
    takes(2, 2);
    const found = common(parts(), 'What NULLIF compares');
    const [a, b] = found.parts;
    return {
      type: found.type,
      run(rows) {
        const [x, y] = [a!.run(rows), b!.run(rows)];
        return (i) => {
          const [left, right] = [x(i), y(i)];
          return left !== null && right !== null && compareValues(left, right) === 0 ? null : left;
        };
      },
      sql: (printer) => `NULLIF(${inOrder(found.type, `(${a!.sql(printer)})`)}, ${b!.sql(printer)})`,
    };
  }
  if (name === 'EXTRACT' || name === 'DATE_TRUNC') {
    takes(2, 2);
    return ofDate(expression, scope);
  }
  const names = [
    ...special,
    ...[scalarFunctions, aggregateFunctions, orderedAggregates, windowFunctions]
      .flat()
      .map((each) => each.name),
  ];
  const near = nearestName(name, names);
  throw new FormulaError(`There is no function ${name}.${near ? ` Is ${near} meant?` : ''}`, {
    from: expression.from,
    to: expression.from + name.length,
  });
}

function firstKnown(name: string, type: Type, parts: readonly Compiled[]): Compiled {
  const sign = name === 'GREATEST' ? 1 : -1;
  return {
    type,
    run(rows) {
      const reads = parts.map((part) => part.run(rows));
      if (name === 'COALESCE')
        return (i) => {
          for (const read of reads) {
            const value = read(i);
            if (value !== null) return value;
          }
          return null;
        };
      // Nulls are passed over, as the database does.
      return (i) => {
        let best: Value = null;
        for (const read of reads) {
          const value = read(i);
          if (value !== null && (best === null || sign * compareValues(value, best) > 0)) best = value;
        }
        return best;
      };
    },
    sql: (printer) => `${name}(${parts.map((part) => inOrder(type, `(${part.sql(printer)})`)).join(', ')})`,
  };
}

/** EXTRACT(part FROM date) and DATE_TRUNC('part', date). */
function ofDate({ name, args }: Call, scope: Scope): Compiled {
  const [what, date] = args as [Expression, Expression];
  const of = compile(date, scope);
  if (!isTime(of.type))
    throw new FormulaError(`${name} takes a date, and this is ${typeNames[of.type]}.`, date);
  if (name === 'EXTRACT') {
    const part = what.kind === 'name' ? what.name.toUpperCase() : '';
    const take = dateParts[part];
    if (!take) throw new FormulaError(`EXTRACT takes one of ${Object.keys(dateParts).join(', ')}.`, what);
    return strict(
      'number',
      [of],
      (text: string) => take(new Date(instantOf(text))),
      (x) => `extract(${part} FROM ${x})::double precision`,
    );
  }
  const unit = what.kind === 'value' && typeof what.value === 'string' ? what.value.toLowerCase() : '';
  const cut = truncations[unit];
  if (!cut)
    throw new FormulaError(`DATE_TRUNC cuts to one of '${Object.keys(truncations).join("', '")}'.`, what);
  const type = of.type as 'date' | 'datetime';
  return strict(
    type,
    [of],
    (text: string) => textOfInstant(cut(new Date(instantOf(text))), type),
    (x) => `date_trunc('${unit}', ${x})::${sqlTypes[type]}`,
  );
}

function scalarCall({ name, args, ...place }: Call, known: ScalarFunction, scope: Scope): Compiled {
  // POSITION('x' IN name) is read as a comparison.
  const [first] = args;
  const given =
    name === 'POSITION' && first?.kind === 'in' && first.list.length === 1
      ? [first.of, first.list[0]!]
      : args;
  const { takes, optional = 0 } = known;
  if (given.length < takes.length - optional || given.length > takes.length)
    throw new FormulaError(`${known.signature} is how ${name} is written.`, place);
  const parts = given.map((arg, k) => must(compile(arg, scope), takes[k]!, arg, `What ${name} takes`));
  return strict(known.gives, parts, known.apply, known.sql);
}

/** An aggregate of the rows behind each reading. */
function aggregated(expression: Call, scope: Scope): Compiled {
  if (!scope.aggregate)
    throw new FormulaError(
      `${expression.name} takes several rows together: here each stands by itself.`,
      expression,
    );
  const found = scope.aggregate(expression);
  return {
    type: found.type,
    run: (rows) => rows.column(found.ref),
    sql: (printer) => printer.column(found.ref),
  };
}

function compiledOver(over: Over, scope: Scope): CompiledOver {
  return {
    partition: over.partition.map((part) => compile(part, scope)),
    order: over.order.map(({ by, descending, nullsFirst = false }) => ({
      by: compile(by, scope),
      descending,
      nullsFirst,
    })),
    frame: over.frame,
  };
}

const frameText = (offset: number) =>
  offset === 0
    ? 'CURRENT ROW'
    : `${Number.isFinite(offset) ? Math.abs(offset) : 'UNBOUNDED'} ${offset < 0 ? 'PRECEDING' : 'FOLLOWING'}`;

function windowed(expression: Call, over: Over, scope: Scope): Compiled {
  const { name, args, star = false, filter } = expression;
  if (!scope.windows)
    throw new FormulaError('A window looks at other readings: here there is one row at a time.', expression);
  const aggregate = aggregateFunction(name);
  const known = windowFunction(name);
  if (!aggregate && !known)
    throw new FormulaError(`${name} has no OVER: it looks at no other rows.`, expression);
  if (known && !over.order.length && known.gives !== 'any' && name !== 'ROW_NUMBER')
    throw new FormulaError(`${name} needs an order: OVER (ORDER BY ..).`, expression);
  const takes = known ? known.takes : star ? [] : [aggregate!.takes ?? ('any' as const)];
  if (args.length > takes.length || args.length < takes.length - (known?.optional ?? 0))
    throw new FormulaError(`${(known ?? aggregate!).signature} is how ${name} is written.`, expression);
  let parts = args.map((arg, k) => {
    const wanted = takes[k]!;
    const compiled = compile(arg, scope);
    return wanted === 'any' ? compiled : must(compiled, wanted, arg, `What ${name} takes`);
  });
  let gives: Type = known
    ? known.gives === 'any'
      ? parts[0]!.type
      : known.gives
    : (aggregate!.gives ?? aggregate!.takes ?? parts[0]!.type);
  if (parts.length === 3) {
    const found = common(
      [
        { compiled: parts[0]!, at: args[0]! },
        { compiled: parts[2]!, at: args[2]! },
      ],
      `What ${name} gives`,
    );
    gives = found.type;
    parts = [found.parts[0]!, parts[1]!, found.parts[1]!];
  }
  const meets = filter && must(compile(filter, scope), 'boolean', filter, 'What follows WHERE');
  const window = compiledOver(over, scope);
  return {
    type: gives,
    run(rows) {
      const of = known ? known.of : aggregateOver(name, star, meets?.run(rows));
      let values: Value[] | undefined;
      const reads = parts.map((part): Read => part.run(rows));
      return (i) => {
        values ??= windowValues(window, rows, reads, of);
        return values[i] ?? null;
      };
    },
    sql(printer) {
      const list = parts.map((part, k) => {
        const text = `(${part.sql(printer)})`;
        return known && takes[k] === 'number' ? `trunc(${text})::int` : inOrder(part.type, text);
      });
      const order = window.order.map(
        ({ by, descending, nullsFirst }) =>
          `${inOrder(by.type, `(${by.sql(printer)})`)} ${descending ? 'DESC' : 'ASC'} NULLS ${nullsFirst ? 'FIRST' : 'LAST'}`,
      );
      const inside = [
        window.partition.length
          ? `PARTITION BY ${window.partition.map((part) => part.sql(printer)).join(', ')}`
          : '',
        order.length ? `ORDER BY ${order.join(', ')}` : '',
        window.frame
          ? `ROWS BETWEEN ${frameText(window.frame.start.offset)} AND ${frameText(window.frame.end.offset)}`
          : '',
      ].filter(Boolean);
      const where = meets ? ` FILTER (WHERE ${meets.sql(printer)})` : '';
      const text = `${name}(${star ? '*' : list.join(', ')})${where} OVER (${inside.join(' ')})`;
      return gives === 'number' ? `(${text})::double precision` : text;
    },
  };
}
