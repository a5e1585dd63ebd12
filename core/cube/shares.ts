import type { Category } from '../board/category';
import { type Measure, plainMeasure } from '../board/measure';
import type { MeasureFormulas } from '../formula/measure-scope';
import type { KeyValue } from '../values';
import { cellMask } from './cell-mask';
import { type Cube, filteredBy } from './cube';
import { figuresOf, measureAtoms } from './measure-atoms';
import { keyValues, rollUp } from './roll-up';
import type { RowFilter } from './row-filter';

/** The measure over all the rows that the filters keep; NaN where there is none. */
export function totalOf(
  given: Cube,
  measure: Measure,
  filters: readonly RowFilter[],
  formulas?: MeasureFormulas,
): number {
  const cube = filteredBy(given, filters);
  const { length, atoms } = rollUp(cube, [], measureAtoms(measure), cellMask(cube, filters));
  return figuresOf(measure, atoms, length, formulas)[0] ?? Number.NaN;
}

/**
 * Of what readings are shares: the measure over all the data, over what the filters keep, over all that is kept of a
 * reading's category, or of its series. NaN where there is nothing to be a share of.
 */
export function wholeOfShare(
  given: Cube,
  { share, ...rest }: Measure,
  { by, split }: { by: Category; split?: Category | undefined },
  filters: readonly RowFilter[],
  formulas?: MeasureFormulas,
): (category: KeyValue, series: KeyValue) => number {
  const measure = plainMeasure(rest);
  const cut = share === 'category' ? by : share === 'series' ? split : undefined;
  if (!cut) {
    const total = totalOf(given, measure, share === 'everything' ? [] : filters, formulas);
    return () => total;
  }
  const cube = filteredBy(given, filters);
  const rolled = rollUp(cube, [cut], measureAtoms(measure), cellMask(cube, filters));
  const figures = figuresOf(measure, rolled.atoms, rolled.length, formulas);
  const wholes = new Map(keyValues(rolled.keys[0]!).map((key, group) => [key, figures[group]!]));
  return (category, series) => wholes.get(cut === by ? category : series) ?? Number.NaN;
}
