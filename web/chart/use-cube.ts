import { skipToken } from '@reduxjs/toolkit/query/react';
import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import type { Cube } from '@sorvik/core/cube/cube';
import { cubeQuery, cubeRequest } from '@sorvik/core/cube/cube-request';
import { fieldOf } from '@sorvik/core/dataset';
import type { DatasetView } from '@sorvik/core/exchange';
import { useMemo } from 'react';
import { cubeAt, problemText, useCubeQuery, useDatasetQuery } from '../app/api';

export interface ChartData {
  dataset?: DatasetView;
  cube?: Cube;
  /** The cube shown belongs to what the chart was a moment ago. */
  waiting: boolean;
  problem?: string;
}

/** The fields a chart names that its dataset does not have. */
function missingFields(chart: Chart, board: Board, dataset: DatasetView): string[] {
  const { keys, atoms } = cubeRequest(chart, board);
  const named = [...keys.map((key) => key.field), ...atoms.flatMap((atom) => atom.field ?? [])];
  return [...new Set(named)].filter((key) => !fieldOf(dataset, key));
}

/** The dataset and the cube of a chart, fetched when they are not yet here. */
export function useChartData(chart: Chart, board: Board): ChartData {
  const { data: dataset, error: datasetError } = useDatasetQuery(chart.dataset);
  const missing = useMemo(
    () => (dataset ? missingFields(chart, board, dataset) : []),
    [chart, board, dataset],
  );
  const query =
    dataset && !missing.length ? cubeQuery(cubeRequest(chart, board), dataset.version) : undefined;
  const {
    // While another cube is on its way, the one from before must not be taken for it.
    currentData: address,
    error,
    isFetching,
    isError,
  } = useCubeQuery(query ? { dataset: chart.dataset, query } : skipToken);
  if (datasetError)
    return { waiting: false, problem: `Its dataset cannot be read. ${problemText(datasetError)}` };
  if (missing.length) {
    const names = missing.map((name) => `"${name}"`).join(' and ');
    return {
      ...(dataset ? { dataset } : {}),
      waiting: false,
      problem: `The dataset has no field ${names} any more. Choose another in the chart's sentences.`,
    };
  }
  if (isError && !isFetching)
    return { ...(dataset ? { dataset } : {}), waiting: false, problem: problemText(error) };
  const cube = cubeAt(address);
  return { ...(dataset ? { dataset } : {}), ...(cube ? { cube } : {}), waiting: isFetching };
}
