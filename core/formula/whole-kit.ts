import { compile } from './compile';
import type { FormulaKit } from './kit';
import { parseFormula } from './parse';

export const wholeKit: FormulaKit = { parse: parseFormula, compile };
