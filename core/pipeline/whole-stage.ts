import type { Chart } from '../board/chart';
import type { Measure } from '../board/measure';
import { figureNow } from '../conditions/figures';
import type { Cube } from '../data/cube';
import type { Ends } from '../data/readings';
import type { RowFilter } from '../data/row-filter';
import { floats } from '../data/typed-lists';
import type { KeyValue } from '../data/values';
import { extentOf } from '../forms/extent';
import type { LeverContext } from '../levers/lever-kind';
import { fillsUp } from './chart-rules';
import type { MeasureFormulas } from './measure-formula';
import { memoLast } from './memo';
import type { Read } from './read-stage';
import { readingsOf } from './readings-of';
import { wholeIn } from './shares';
import type { PipelineInput } from './stage';

const noFilters: readonly RowFilter[] = [];

/** What bars are filled up to: one figure for all, or a measure of each. */
export function wholeStage() {
  const totalFor = memoLast(
    ({
      cube,
      measure,
      over,
      filters,
      formulas,
    }: {
      cube: Cube;
      measure: Measure;
      over: readonly RowFilter[];
      filters: readonly RowFilter[];
      formulas: MeasureFormulas | undefined;
    }) => wholeIn(cube, measure, over, filters, formulas),
  );
  const alike = memoLast(({ figure, places }: { figure: number; places: number }) =>
    new Float64Array(places).fill(figure),
  );
  const own = memoLast(
    ({
      cube,
      filters,
      places,
      ...spec
    }: {
      cube: Cube;
      by: Chart['by'];
      measure: Measure;
      filters: readonly RowFilter[];
      formulas: MeasureFormulas | undefined;
      places: readonly KeyValue[];
    }) => {
      const order = { by: 'key', direction: 'ascending' } as const;
      const { category, value } = readingsOf(cube, { ...spec, order }, filters);
      const of = new Map(category.map((key, i) => [key, value[i]!]));
      return floats(places.length, (place) => of.get(places[place]!) ?? Number.NaN);
    },
  );

  const oneFor = (
    { chart, cube }: PipelineInput,
    context: LeverContext,
    { judged, filters, formulas }: Read,
    ends: Ends,
  ) => {
    const { of, figure } = chart.whole!;
    if (of === 'figure') return figureNow(figure!, { ...context, readings: judged });
    // Of a stack, its top.
    if (of === 'largest') return extentOf(ends.to)[1];
    const over = of === 'filters' ? filters : noFilters;
    return totalFor({ cube, measure: chart.measure, over, filters, formulas });
  };

  /** Per place in view what its bar is filled up to, NaN for nothing; null where none is. */
  return (input: PipelineInput, context: LeverContext, read: Read, ends: Ends): Float64Array | null => {
    const { chart, cube } = input;
    if (!chart.whole || !fillsUp(chart)) return null;
    const { of, measure, over } = chart.whole;
    const { filters, formulas } = read;
    const { places } = read.judged;
    if (of === 'measure')
      return own({
        cube,
        by: chart.by,
        measure: measure!,
        filters: over === 'everything' ? noFilters : filters,
        formulas,
        places,
      });
    return alike({ figure: oneFor(input, context, read, ends), places: places.length });
  };
}
