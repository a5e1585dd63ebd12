import { fullEngine } from '@sorvik/formula/full-engine';
import type { Chart } from '../board/chart';
import { estimateText } from '../forms/fit-text';
import type { Positions } from '../levers/lever-kind';
import { chartStages } from '../pipeline/chart-stages';
import type { PipelineInput } from '../pipeline/stage';
import { board, cube, dataset, positionsAt, testDay } from './fixtures';
import { told } from './told';

/** What a chart of the fixtures' cube comes to, with its levers moved. */
export const runChart = (
  chart: Chart,
  positions: Positions = {},
  { board: on = board, ...more }: Partial<PipelineInput> = {},
  stages = chartStages(),
) =>
  told(
    stages.run({
      board: on,
      chart,
      dataset,
      cube,
      positionOf: positionsAt(on.levers, positions),
      facts: {},
      today: testDay,
      engine: fullEngine,
      width: 600,
      height: 400,
      measure: estimateText,
      miniature: false,
      ...more,
    }),
  );
