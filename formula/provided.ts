import type { FormulaKit } from './kit';

let kit: FormulaKit | null = null;

/** Most boards have no formula, and the parser is large: whoever shows a board that has one provides it. */
export const provideFormulas = (given: FormulaKit): void => {
  kit = given;
};
export const formulaKit = (): FormulaKit | null => kit;
