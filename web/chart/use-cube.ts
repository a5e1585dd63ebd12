import { skipToken } from '@reduxjs/toolkit/query/react';
import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import type { Cube } from '@sorvik/core/data/cube';
import { fieldOf } from '@sorvik/core/data/dataset';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { hasLearned } from '@sorvik/core/messages/desk';
import type { Locale } from '@sorvik/core/messages/locale';
import {
  asksPerMove,
  cubeQuery,
  cubeRequest,
  formulaMeasures,
  requestLevels,
  sizeQuery,
} from '@sorvik/core/pipeline/cube-request';
import { largestCube, mostCells } from '@sorvik/core/pipeline/cube-size';
import { measureProblem } from '@sorvik/core/pipeline/measure-formula';
import { asksForItsWindow } from '@sorvik/core/pipeline/window-asked';
import { useEffect, useMemo, useState } from 'react';
import { cubeAt, isOutdated, problemText, useCubeQuery, useCubeSizeQuery, useDatasetQuery } from '../app/api';
import { formulaEngine } from '../board/formula-engine';
import { useFormulas } from '../board/use-formulas';
import { useLanguage } from '../ui/language';
import { say } from '../ui/say';
import { useAskedCube } from './use-asked-cube';

export interface ChartData {
  dataset?: DatasetView;
  cube?: Cube;
  /** The cube shown belongs to what the chart was a moment ago. */
  waiting: boolean;
  problem?: string;
}

/** The fields a chart names that its dataset does not have. */
function missingFields(chart: Chart, board: Board, dataset: DatasetView): string[] {
  const { keys, partials } = cubeRequest(chart, board, formulaEngine());
  const named = [...keys.map((key) => key.field), ...partials.flatMap((partial) => partial.field ?? [])];
  return [...new Set(named)].filter((key) => !fieldOf(dataset, key));
}

/** What is wrong with the first of a chart's measures that cannot be computed, in words. */
function wrongFormula(chart: Chart, board: Board, dataset: DatasetView, locale: Locale): string | null {
  for (const { text = '', name } of formulaMeasures(chart)) {
    const problem = measureProblem(text, board, dataset, formulaEngine());
    if (problem)
      return say(locale, 'problem.formula', {
        formula: name ? `"${name}"` : text,
        known: hasLearned() ? 'yes' : 'no',
        why: problem.message,
      });
  }
  return null;
}

/** The dataset and the cube of a chart, fetched when they are not yet here. */
export function useChartData(chart: Chart, board: Board, still?: Positions): ChartData {
  const { locale } = useLanguage();
  const formulas = useFormulas(chart);
  const { data: dataset, error: datasetError } = useDatasetQuery(chart.dataset);
  const missing = useMemo(
    () => (dataset && formulas ? missingFields(chart, board, dataset) : []),
    [chart, board, dataset, formulas],
  );
  const wrong = useMemo(
    () => (dataset && formulas ? wrongFormula(chart, board, dataset, locale) : null),
    [chart, board, dataset, formulas, locale],
  );
  const request = useMemo(
    () =>
      dataset && formulas && !missing.length && !wrong ? cubeRequest(chart, board, formulaEngine()) : null,
    [chart, board, dataset, formulas, missing, wrong],
  );
  const whole = request !== null && !asksPerMove(request) ? request : null;
  const large = whole !== null && dataset !== undefined && mostCells(whole, dataset) > largestCube;
  const { data: size, isError: unsized } = useCubeSizeQuery(
    large ? { dataset: chart.dataset, query: sizeQuery(whole, dataset.version) } : skipToken,
  );
  const sizing = large && !size && !unsized;
  // An estimate may have been too low: what was refused is asked for per move.
  const [refused, setRefused] = useState<typeof whole>(null);
  const tooLarge =
    (whole !== null && refused === whole) ||
    (large && (unsized || (size !== undefined && size.cells > largestCube)));
  const perMove = request !== null && (whole === null || tooLarge);
  const windowed = useMemo(
    () => perMove && dataset !== undefined && asksForItsWindow(chart, board, dataset, formulaEngine()),
    [perMove, chart, board, dataset],
  );
  const levels = useMemo(() => {
    if (!perMove) return null;
    const asking = cubeRequest(chart, board, formulaEngine(), { perMove });
    return requestLevels(asking, windowed ? chart : undefined);
  }, [perMove, windowed, chart, board]);
  const asked = useAskedCube(chart, board, dataset, levels, windowed, still);
  const query = request && !perMove && !sizing ? cubeQuery(request, dataset!.version) : undefined;
  const {
    // While another cube is on its way, the one from before must not be taken for it.
    currentData: address,
    error,
    isFetching,
    isError,
  } = useCubeQuery(query ? { dataset: chart.dataset, query } : skipToken);
  const isRefused = isError && (error as { status?: unknown }).status === 413;
  useEffect(() => {
    if (isRefused) setRefused(whole);
  }, [isRefused, whole]);
  if (datasetError)
    return {
      waiting: false,
      problem: say(locale, 'problem.data', { why: problemText(datasetError, locale) }),
    };
  if (missing.length) {
    const fields = locale.list(missing.map((name) => `"${name}"`));
    return {
      ...(dataset ? { dataset } : {}),
      waiting: false,
      problem: say(locale, 'problem.fields', { fields }),
    };
  }
  if (dataset && wrong) return { dataset, waiting: false, problem: wrong };
  if (dataset && perMove) return { dataset, ...asked };
  if (isError && !isFetching && !isRefused && !isOutdated(error))
    return { ...(dataset ? { dataset } : {}), waiting: false, problem: problemText(error, locale) };
  const cube = cubeAt(address);
  return {
    ...(dataset ? { dataset } : {}),
    ...(cube ? { cube } : {}),
    waiting: isFetching || sizing || isError,
  };
}
