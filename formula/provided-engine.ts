import type { FormulaEngine } from './engine';

let engine: FormulaEngine | null = null;

/** Most boards have no formula, and the parser is large: whoever shows a board that has one provides it. */
export const provideEngine = (given: FormulaEngine): void => {
  engine = given;
};
export const formulaEngine = (): FormulaEngine | null => engine;
