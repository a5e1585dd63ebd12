import type { RowField } from '../dataset';
import type { LeverContext } from '../levers/lever-kind';
import type { AggregateCall, Compiled, Scope, SqlPrinter } from './compiled';
import type { Expression, FormulaProblem } from './expression';
import type { LeverNames } from './lever-gift';
import type { Parsed } from './parse';

/** A formula that makes one figure of all the marks in view, or what is wrong with it. */
export type ReadFigure =
  | { ok: true; run(value: Float64Array, context: LeverContext, today: string): number }
  | { ok: false; problem: FormulaProblem };

/** What reads and checks formulas. */
export interface FormulaKit {
  parse(text: string): Parsed;
  compile(expression: Expression, scope: Scope): Compiled;
  figure(text: string, names: LeverNames): ReadFigure;
  /** Checks an aggregate of rows; returns how it is written in SQL. Throws a `FormulaError`. */
  aggregate(call: AggregateCall, fields: readonly RowField[]): (printer: SqlPrinter) => string;
  /** The functions there are, each with how it is written. */
  functions: readonly { name: string; signature: string }[];
}

let kit: FormulaKit | null = null;

/** Most boards have no formula, and the parser is large: whoever shows a board that has one provides it. */
export const provideFormulas = (given: FormulaKit): void => {
  kit = given;
};
export const formulaKit = (): FormulaKit | null => kit;
