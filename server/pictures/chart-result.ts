import { enabledChart } from '@sorvik/core/board/enabled';
import { heldText } from '@sorvik/core/levers/levers-held';
import { settledPositions } from '@sorvik/core/levers/settled-positions';
import { chartStages } from '@sorvik/core/pipeline/chart-stages';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { vocabularyOf } from '@sorvik/core/words/vocabulary';
import { fullEngine } from '@sorvik/formula/full-engine';
import type { BoardStanding, ChartData } from './drawn';
import type { Fonts } from './fonts';

/** A chart in any size, px: the way from what it is drawn from to where its marks are and how they are lit, as a page goes it. */
export type SizedChart = (size: { width: number; height: number }) => ChartResult;

export function sizedChart(
  { board, positions, facts, today }: BoardStanding,
  { chart: id, dataset, cube }: ChartData,
  { measure }: Fonts,
): SizedChart {
  const chart = enabledChart(board.charts.find((each) => each.id === id)!);
  const stages = chartStages();
  const positionOf = settledPositions(board.levers, positions, facts);
  return (size) =>
    stages.run({
      ...{ board, chart, dataset, cube, facts, today, positionOf, measure, ...size },
      engine: fullEngine,
      miniature: false,
      focus: -1,
      focusSeries: -1,
    });
}

/** What a chart is called, with what the levers hold that it names. */
export function titleOf(standing: BoardStanding, { chart: id, dataset }: ChartData): string {
  const { board } = standing;
  const words = vocabularyOf(board, dataset, fullEngine);
  return chartTitle(board.charts.find((each) => each.id === id)!, words, heldText(board, standing, words));
}
