import { call } from './calls';
import { caseOf } from './cases';
import { castTo, rounded } from './casts';
import { common } from './common-type';
import { type Compiled, type Compiling, FormulaError, type Scope } from './compiled';
import type { Expression, Value } from './expression';
import { fits, must, placed, strict } from './fitting';
import { nearestName } from './nearest-name';
import { between, binary, isIn } from './operators';
import { meantInstead, tell } from './tell';

/** Checks a formula and gives it its one meaning. Throws a `FormulaError` with the place of what is wrong. */
export function compile(expression: Expression, scope: Scope): Compiled {
  const inner = (part: Expression) => compile(part, scope);
  const within: Compiling = { scope, of: inner };
  switch (expression.kind) {
    case 'value': {
      const { type, value } = expression;
      const whole = Number.isSafeInteger(value);
      return { type, whole, run: () => () => value, sql: (printer) => printer.value(value, type) };
    }
    case 'interval':
      throw new FormulaError(tell('interval.alone'), expression);
    case 'name':
      return columnOf(expression, scope);
    case 'lever':
      return leverOf(expression, scope, false);
    case 'unary':
      return unary(expression, within);
    case 'binary':
      return binary(expression, within);
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
    case 'between':
      return between(expression, within);
    case 'in': {
      if (expression.bare) throw new FormulaError(tell('in.brackets'), expression.list[0]!);
      const { type, parts } = common(
        [expression.of, ...expression.list].map((part) => placed(part, inner)),
        { place: 'compares', of: 'IN' },
      );
      return isIn(type, parts[0]!, parts.slice(1), expression.negated);
    }
    case 'anyOf':
      return anyOf(expression, scope);
    case 'case':
      return caseOf(expression, within);
    case 'cast':
      return expression.whole
        ? rounded(castTo(inner(expression.of), expression.as, expression))
        : castTo(inner(expression.of), expression.as, expression);
    case 'call':
      return call(expression, within);
  }
}

function unary({ op, of }: Extract<Expression, { kind: 'unary' }>, within: Compiling): Compiled {
  const part = must(within.of(of), op === 'NOT' ? 'boolean' : 'number', of, { place: 'after', of: op });
  if (op === 'NOT')
    return strict(
      'boolean',
      [part],
      (a: boolean) => !a,
      (a) => `NOT ${a}`,
    );
  return strict(
    'number',
    [part],
    (a: number) => (op === '-' ? -a + 0 : a),
    (a) => `${op} ${a}`,
    { whole: part.whole ?? false },
  );
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
      scope.whyNot?.(name) ?? tell('name.unknown', { name, ...meantInstead(near) }),
      expression,
    );
  }
  return {
    type: found.type,
    whole: found.whole ?? false,
    run: (rows) => rows.column(found.ref),
    sql: (printer) => printer.column(found.ref),
  };
}

function leverOf(expression: Extract<Expression, { kind: 'lever' }>, scope: Scope, list: boolean): Compiled {
  const { name, part } = expression;
  const found = scope.lever(name, part);
  if (typeof found === 'string') {
    const near = nearestName(name, scope.levers());
    throw new FormulaError(
      tell('lever.unknown', { why: found, ...meantInstead(near === name ? undefined : near) }),
      expression,
    );
  }
  if (found.list && !list) throw new FormulaError(tell('lever.several', { name }), expression);
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

function anyOf(expression: Extract<Expression, { kind: 'anyOf' }>, scope: Scope): Compiled {
  const { lever } = expression;
  if (lever.kind !== 'lever') throw new FormulaError(tell('any.noLever'), lever);
  const held = leverOf(lever, scope, true);
  const of = compile(expression.of, scope);
  if (!fits(of.type, held.type))
    throw new FormulaError(
      tell('any.type', { name: lever.name, holds: held.type, is: of.type }),
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
