import type { Chart } from '../board/chart';
import { fillsUp } from '../board/chart-rules';
import type { Measure } from '../board/measure';
import { figureNow } from '../conditions/figures';
import type { Cube } from '../cube/cube';
import { type Readings, readingsOf } from '../cube/readings';
import type { RowFilter } from '../cube/row-filter';
import { wholeIn } from '../cube/shares';
import type { Ends } from '../cube/stack';
import { extentOf } from '../forms/extent';
import type { MeasureFormulas } from '../formula/measure-scope';
import type { LeverContext } from '../levers/lever-kind';
import { memoLast } from '../memo';
import { floats } from '../typed-lists';
import type { KeyValue } from '../values';
import type { Read } from './read-stage';
import type { StageInput } from './stage';

const noFilters: readonly RowFilter[] = [];

/** What bars are filled up to: one figure for all, or a measure of each. */
export function wholeStage(
  now: () => StageInput,
  context: () => LeverContext,
  formulas: () => MeasureFormulas | undefined,
) {
  const totalFor = memoLast(wholeIn);
  const alike = memoLast((figure: number, places: number) => new Float64Array(places).fill(figure));
  const own = memoLast(
    (
      cube: Cube,
      by: Chart['by'],
      measure: Measure,
      filters: readonly RowFilter[],
      given: MeasureFormulas | undefined,
      places: readonly KeyValue[],
    ) => {
      const order = { by: 'key', direction: 'ascending' } as const;
      const { category, value } = readingsOf(cube, { by, measure, order, formulas: given }, filters);
      const of = new Map(category.map((key, i) => [key, value[i]!]));
      return floats(places.length, (place) => of.get(places[place]!) ?? Number.NaN);
    },
  );

  const oneFor = (chart: Chart, judged: Readings, filters: readonly RowFilter[], ends: Ends): number => {
    const { of, figure } = chart.whole!;
    if (of === 'figure') return figureNow(figure!, { ...context(), readings: judged });
    // Of a stack, its top.
    if (of === 'largest') return extentOf(ends.to)[1];
    return totalFor(now().cube, chart.measure, of === 'filters' ? filters : noFilters, filters, formulas());
  };

  /** Per place in view what its bar is filled up to, NaN for nothing; null where none is. */
  return ({ judged, filters }: Read, ends: Ends): Float64Array | null => {
    const { chart, cube } = now();
    if (!chart.whole || !fillsUp(chart)) return null;
    const { of, measure, over } = chart.whole;
    if (of === 'measure')
      return own(
        cube,
        chart.by,
        measure!,
        over === 'everything' ? noFilters : filters,
        formulas(),
        judged.places,
      );
    return alike(oneFor(chart, judged, filters, ends), judged.places.length);
  };
}
