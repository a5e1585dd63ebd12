import type { Chart } from '../board/chart';
import { estimateText } from '../forms/fit-text';
import type { Positions } from '../levers/lever-kind';
import { chartStages } from '../stages/chart-stages';
import type { StageInput } from '../stages/stage';
import { board, cube, dataset, standAt } from './fixtures';

/** What a chart of the fixtures' cube comes to, with its levers moved. */
export const runChart = (
  chart: Chart,
  positions: Positions = {},
  { board: on = board, ...more }: Partial<StageInput> = {},
  stages = chartStages(),
) =>
  stages.run({
    board: on,
    chart,
    dataset,
    cube,
    stand: standAt(on.levers, positions),
    facts: {},
    width: 600,
    height: 400,
    measure: estimateText,
    miniature: false,
    ...more,
  });
