import type { FormulaEngine } from '@sorvik/formula/engine';
import type { Measure } from '../board/measure';
import { aggregateAtoms, aggregateValue } from '../data/aggregate-atoms';
import type { Atom } from '../data/cube';
import { floats } from '../data/typed-lists';
import { formulaAtoms, formulaFigures, type MeasureFormulas } from './measure-formula';

/** The atoms from which a measure is put together after any filter. */
export const measureAtoms = (measure: Measure, engine: FormulaEngine | null): Atom[] =>
  measure.aggregate === 'formula' ? formulaAtoms(measure.text ?? '', engine) : aggregateAtoms(measure);

/** A measure of each of some groups, from their atoms in the order of `measureAtoms`; NaN is null. */
export function figuresOf(
  measure: Measure,
  atoms: readonly Float64Array[],
  length: number,
  formulas: MeasureFormulas | undefined,
): Float64Array {
  if (measure.aggregate === 'formula') return formulaFigures(measure.text!, atoms, length, formulas);
  // What one atom is the measure of needs nothing done.
  if (atoms.length === 1 && length === atoms[0]!.length) return atoms[0]!;
  const parts: number[] = [];
  return floats(length, (i) => {
    for (let a = 0; a < atoms.length; a++) parts[a] = atoms[a]![i]!;
    return aggregateValue(measure, parts);
  });
}
