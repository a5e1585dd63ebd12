import type { FormulaEngine } from '@sorvik/formula/engine';
import type { Measure } from '../board/measure';
import { aggregateValue, partialsOfAggregate } from '../data/aggregate-partials';
import type { PartialAggregate } from '../data/cube';
import { floats } from '../data/typed-lists';
import { formulaFigures, formulaPartials, type MeasureFormulas } from './measure-formula';

/** What a measure is put together from after any filter. */
export const measurePartials = (measure: Measure, engine: FormulaEngine | null): PartialAggregate[] =>
  measure.aggregate === 'formula'
    ? formulaPartials(measure.text ?? '', engine)
    : partialsOfAggregate(measure);

/** A measure of each of some groups, from their partial aggregates, in the order of `measurePartials`; NaN is null. */
export function figuresOf(
  measure: Measure,
  partials: readonly Float64Array[],
  length: number,
  formulas: MeasureFormulas | undefined,
): Float64Array {
  if (measure.aggregate === 'formula') return formulaFigures(measure.text!, partials, length, formulas);
  // What one partial aggregate is the measure of needs nothing done.
  if (partials.length === 1 && length === partials[0]!.length) return partials[0]!;
  const parts: number[] = [];
  return floats(length, (i) => {
    for (let a = 0; a < partials.length; a++) parts[a] = partials[a]![i]!;
    return aggregateValue(measure, parts);
  });
}
