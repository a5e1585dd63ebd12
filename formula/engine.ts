import type { AggregateCall, Compiled, FieldScope, LeverScope, Rows, Scope, SqlPrinter } from './compiled';
import type { Expression, FormulaProblem } from './expression';
import type { Parsed } from './parse';

/** A formula that makes one figure of all the marks in view, or what is wrong with it. */
export type ReadFigure =
  | { ok: true; run(value: Float64Array, more: Pick<Rows, 'lever' | 'today'>): number }
  | { ok: false; problem: FormulaProblem };

/** What reads and checks formulas. */
export interface FormulaEngine {
  parse(text: string): Parsed;
  compile(expression: Expression, scope: Scope): Compiled;
  figure(text: string, levers: LeverScope): ReadFigure;
  /** Checks an aggregate of rows; returns how it is written in SQL. Throws a `FormulaError`. */
  aggregate(call: AggregateCall, scope: FieldScope): (printer: SqlPrinter) => string;
  /** The functions there are, each with how it is written. */
  functions: readonly { name: string; signature: string }[];
}
