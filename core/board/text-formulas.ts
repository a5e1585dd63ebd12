import type { Chart } from './chart';

/** The formulas by which a chart says something of its marks: beside them, and where they are pointed at. */
export const textFormulas = ({ beside, pointed }: Pick<Chart, 'beside' | 'pointed'>): string[] =>
  [beside, pointed].filter((text) => text !== undefined);

/** The properties of a board's document in which formulas stand. */
export const formulaKeys: readonly string[] = ['text', 'beside', 'pointed'];
