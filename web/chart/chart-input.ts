import { today } from '@sorvik/core/data/today';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import type { Facts } from '@sorvik/core/levers/settled-positions';
import { settledPositions } from '@sorvik/core/levers/settled-positions';
import type { PipelineInput } from '@sorvik/core/pipeline/stage';
import { formulaEngine } from '../board/formula-engine';

/** What a chart is of: its board, and the data that it reads. */
type Source = Pick<PipelineInput, 'board' | 'chart' | 'dataset' | 'cube'>;

/** What a chart shows while its levers stand at some positions, as things are now. */
export const chartInput = (source: Source, positions: Positions, facts: Facts) => ({
  ...source,
  positionOf: settledPositions(source.board.levers, positions, facts),
  facts,
  today: today(),
  engine: formulaEngine(),
});
