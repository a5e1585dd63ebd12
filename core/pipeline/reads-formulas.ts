import type { Chart } from '../board/chart';
import { figureFormulas } from '../board/figure';
import { textFormulas } from '../board/text-formulas';
import { conditionKinds } from '../conditions/registry';
import { formulaMeasures } from './cube-request';

/** Whether something of a chart is a formula: what reads them is large, and most charts have none. */
export const readsFormulas = (chart: Chart): boolean =>
  chart.cues.some(({ condition }) => conditionKinds.get(condition.kind).readsFormulas?.(condition)) ||
  formulaMeasures(chart).length > 0 ||
  figureFormulas([chart.cues, chart.guides, chart.whole]).length > 0 ||
  textFormulas(chart).length > 0;
