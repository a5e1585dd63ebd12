import type { FormulaEngine } from '@sorvik/formula/engine';

let held: FormulaEngine | null = null;
let loading: Promise<FormulaEngine> | undefined;

/** What reads formulas; null until it is there. Most boards have none, and the parser is large. */
export const formulaEngine = (): FormulaEngine | null => held;

/** Fetches what reads formulas, once. */
export function loadFormulaEngine(): Promise<FormulaEngine> {
  loading ??= import('@sorvik/formula/full-engine').then(({ fullEngine }) => {
    held = fullEngine;
    return fullEngine;
  });
  return loading;
}
