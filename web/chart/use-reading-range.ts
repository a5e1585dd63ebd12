import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { readingRange } from '@sorvik/core/conditions/figures';
import { readingsOf } from '@sorvik/core/pipeline/readings-of';
import { useMemo } from 'react';
import { useChartData } from './use-cube';

/** The lowest and the highest reading of a chart with nothing filtered; undefined while they are not wanted or known. */
export function useReadingRange(chart: Chart, board: Board, wanted = true) {
  const { cube } = useChartData(chart, board);
  return useMemo(
    () => (wanted && cube ? readingRange(readingsOf(cube, chart, [])) : undefined),
    [wanted, cube, chart],
  );
}
