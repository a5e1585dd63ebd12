import type { Compiled, Scope } from './compiled';
import type { Expression } from './expression';
import type { Parsed } from './parse';

/** What reads and checks formulas. */
export interface FormulaKit {
  parse(text: string): Parsed;
  compile(expression: Expression, scope: Scope): Compiled;
  /** The functions there are, each with how it is written. */
  functions: readonly { name: string; signature: string }[];
}

let kit: FormulaKit | null = null;

/** Most boards have no formula, and the parser is large: whoever shows a board that has one provides it. */
export const provideFormulas = (given: FormulaKit): void => {
  kit = given;
};
export const formulaKit = (): FormulaKit | null => kit;
