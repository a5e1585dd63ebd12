import type { Chart } from '../board/chart';
import { sameDimension } from '../data/dimension';
import { say } from '../messages/say';
import { furtherMeasures } from '../pipeline/chart-rules';
import { dimensionText } from '../words/dimension-text';
import { measureText } from '../words/measure-text';
import type { Vocabulary } from '../words/vocabulary';

/** What the columns of a chart's values are called where they are listed. */
export interface ValueColumns {
  by: string;
  /** Left out where the chart is not split. */
  split?: string;
  measure: string;
}

/** The columns of a chart's values: of several measures, each value says which one it is of. */
export function valueColumns(chart: Chart, words: Vocabulary): ValueColumns {
  const by = dimensionText(chart.by, words);
  if (furtherMeasures(chart).length)
    return {
      by,
      split: say(words.locale, 'column.measure'),
      measure: say(words.locale, 'column.value'),
    };
  const isSplit = chart.split && !sameDimension(chart.split, chart.by);
  return {
    by,
    ...(isSplit ? { split: dimensionText(chart.split!, words) } : {}),
    measure: measureText(chart.measure, words),
  };
}
