import type { Category } from '../board/category';
import { type Measure, plainMeasure } from '../board/measure';
import { cellMask } from '../data/cell-mask';
import { type Cube, filteredBy } from '../data/cube';
import { type KeptCategories, keptCells } from '../data/kept-categories';
import { keyValues, rollUp, rollUpSteps } from '../data/roll-up';
import type { RowFilter } from '../data/row-filter';
import type { KeyValue } from '../data/values';
import type { MeasureFormulas } from './measure-formula';
import { figuresOf, measurePartials } from './measure-partials';

/** The measure over all the rows that the filters keep; NaN where there is none. */
export function totalOf(
  given: Cube,
  measure: Measure,
  filters: readonly RowFilter[],
  formulas?: MeasureFormulas,
): number {
  const cube = filteredBy(given, filters);
  const { length, partials } = rollUp(
    cube,
    [],
    measurePartials(measure, formulas?.engine ?? null),
    cellMask(cube, filters),
  );
  return figuresOf(measure, partials, length, formulas)[0] ?? Number.NaN;
}

/**
 * What is all of some rows, in the figures of a measure: its total over them; of a share, the share that they are of what
 * it is a share of. Of a category or a series every part is a share of one.
 */
export function wholeIn(
  given: Cube,
  measure: Measure,
  over: readonly RowFilter[],
  filters: readonly RowFilter[],
  formulas?: MeasureFormulas,
): number {
  const { share } = measure;
  const total = (of: readonly RowFilter[]) => totalOf(given, plainMeasure(measure), of, formulas);
  if (!share) return totalOf(given, measure, over, formulas);
  if (share === 'category' || share === 'series') return 1;
  const of = total(share === 'everything' ? [] : filters);
  return of === 0 ? Number.NaN : total(over) / of;
}

/**
 * Of what readings are shares: the measure over all the data, over what the filters keep, over all that is kept of a
 * reading's category, or of its series. NaN where there is nothing to be a share of. It comes in steps.
 */
export function* wholeOfShare(
  given: Cube,
  { share, ...rest }: Measure,
  { by, split, kept }: { by: Category; split?: Category | undefined; kept?: KeptCategories | undefined },
  filters: readonly RowFilter[],
  formulas?: MeasureFormulas,
): Generator<void, (category: KeyValue, series: KeyValue) => number> {
  const measure = plainMeasure(rest);
  const dimension = share === 'category' ? by : share === 'series' ? split : undefined;
  if (!dimension) {
    const total = totalOf(given, measure, share === 'everything' ? [] : filters, formulas);
    return () => total;
  }
  const filtered = filteredBy(given, filters);
  const all = cellMask(filtered, filters);
  const { cube, mask } = kept ? keptCells(filtered, by, kept, all) : { cube: filtered, mask: all };
  const rolled = yield* rollUpSteps(
    cube,
    [dimension],
    measurePartials(measure, formulas?.engine ?? null),
    mask,
  );
  const figures = figuresOf(measure, rolled.partials, rolled.length, formulas);
  const wholes = new Map(keyValues(rolled.keys[0]!).map((key, group) => [key, figures[group]!]));
  return (category, series) => wholes.get(dimension === by ? category : series) ?? Number.NaN;
}
