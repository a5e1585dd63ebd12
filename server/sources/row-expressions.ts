import type { FieldInfo } from '@sorvik/core/data/dataset';
import { readRow, rowScope } from '@sorvik/core/data/row-formula';
import { compileAggregate } from '@sorvik/formula/aggregate-sql';
import { type Compiled, FormulaError, type SqlPrinter, typeName } from '@sorvik/formula/compiled';
import type { ValueType } from '@sorvik/formula/expression';
import { fullEngine } from '@sorvik/formula/full-engine';
import { invalid } from '../http/problem';
import { tell } from '../tell';

/** A call of an aggregate that is asked for as a whole, checked. */
export function askedCall(text: string, fields: FieldInfo[]): (printer: SqlPrinter) => string {
  const parsed = fullEngine.parse(text);
  const wrong = (message: string) => invalid([{ pointer: '/aggregate', message: `${text}: ${message}` }]);
  if (!parsed.ok) throw wrong(parsed.problem.message);
  if (parsed.expression.kind !== 'call') throw wrong(tell('question.thisIsNoAggregate'));
  try {
    return compileAggregate(parsed.expression, rowScope(fields));
  } catch (error) {
    if (error instanceof FormulaError) throw wrong(error.message);
    throw error;
  }
}

/** An expression of the fields of a row, checked; of one type where one is wanted. */
export function compiledRow(text: string, fields: FieldInfo[], type?: ValueType): Compiled {
  const read = readRow(text, fields, fullEngine);
  if (!read.ok) throw invalid([{ pointer: '/aggregate', message: `${text}: ${read.problem.message}` }]);
  if (type && read.compiled.type !== type)
    throw invalid([
      { pointer: '/aggregate', message: tell('question.hasToBe', { text, type: typeName(type) }) },
    ]);
  return read.compiled;
}
