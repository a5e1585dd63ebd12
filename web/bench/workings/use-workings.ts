import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { enabledChart } from '@sorvik/core/board/enabled';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { chartStages } from '@sorvik/core/pipeline/chart-stages';
import { type Workings, workingsOf } from '@sorvik/core/pipeline/workings';
import { measureText } from '@sorvik/view/measure-text';
import { useMemo } from 'react';
import { chartInput } from '../../chart/chart-input';
import { useChartData } from '../../chart/use-cube';
import { useKnownFacts } from '../../levers/facts-context';

/** The workings of a chart at some positions; null where there are none, and while its data is on the way; or what is wrong in words. */
export function useWorkings(
  board: Board,
  described: Chart,
  positions: Positions | null,
): Workings | string | null {
  const chart = enabledChart(described);
  const stages = useMemo(() => chartStages(), []);
  const { dataset, cube, problem } = useChartData(chart, board);
  const { facts, ready } = useKnownFacts();
  return useMemo(() => {
    if (problem) return problem;
    if (!dataset || !cube || !ready || !positions) return null;
    const output = stages.run({
      ...chartInput({ board, chart, dataset, cube }, positions, facts),
      width: 400,
      height: 300,
      measure: measureText,
      miniature: true,
    });
    return workingsOf(output);
  }, [stages, board, chart, dataset, cube, ready, problem, positions, facts]);
}
