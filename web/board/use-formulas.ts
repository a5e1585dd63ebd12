import type { Chart } from '@sorvik/core/board/chart';
import { readsFormulas } from '@sorvik/core/pipeline/reads-formulas';
import type { FormulaEngine } from '@sorvik/formula/engine';
import { useEffect, useState } from 'react';
import { formulaEngine, loadFormulaEngine } from './formula-engine';

/** Whether a chart's formulas can be read: what reads them is fetched with the first chart that has one. */
export function useFormulas(chart: Chart): boolean {
  const needed = readsFormulas(chart);
  return useFormulaEngine(needed) !== null || !needed;
}

/** What reads formulas, fetched once it is needed; null until it is there. */
export function useFormulaEngine(needed: boolean): FormulaEngine | null {
  const [engine, setEngine] = useState(formulaEngine);
  useEffect(() => {
    if (!needed || engine) return;
    let gone = false;
    loadFormulaEngine().then((loaded) => !gone && setEngine(loaded));
    return () => {
      gone = true;
    };
  }, [needed, engine]);
  return engine;
}
