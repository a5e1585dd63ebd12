import type { Chart } from '@sorvik/core/board/chart';
import { figureFormulas } from '@sorvik/core/board/figure';
import { textFormulas } from '@sorvik/core/board/text-formulas';
import { conditionKinds } from '@sorvik/core/conditions/registry';
import { formulaMeasures } from '@sorvik/core/pipeline/cube-request';
import { formulaEngine, provideEngine } from '@sorvik/formula/provided-engine';
import { useEffect, useState } from 'react';

let loading: Promise<void> | undefined;
const load = () => {
  loading ??= import('@sorvik/formula/full-engine').then(({ fullEngine }) => provideEngine(fullEngine));
  return loading;
};

/** Whether a chart's formulas can be read: what reads them is fetched with the first chart that has one. */
export function useFormulas(chart: Chart): boolean {
  const needed =
    chart.cues.some(({ condition }) => conditionKinds.get(condition.kind).readsFormulas?.(condition)) ||
    formulaMeasures(chart).length > 0 ||
    figureFormulas([chart.cues, chart.guides, chart.whole]).length > 0 ||
    textFormulas(chart).length > 0;
  return useFormulaKit(needed);
}

/** Whether formulas can be read, once they are needed. */
export function useFormulaKit(needed: boolean): boolean {
  const [there, setThere] = useState(formulaEngine() !== null);
  useEffect(() => {
    if (!needed || there) return;
    let gone = false;
    load().then(() => !gone && setThere(true));
    return () => {
      gone = true;
    };
  }, [needed, there]);
  return !needed || there;
}
