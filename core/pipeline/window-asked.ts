import type { FormulaEngine } from '@sorvik/formula/engine';
import { type Board, leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import { type Condition, conditionKinds } from '../conditions/registry';
import type { DatasetInfo } from '../data/dataset';
import type { Kept } from '../data/kept';
import { kindOf } from '../levers/registry';
import type { Facts } from '../levers/settled-positions';
import { compareOf } from './chart-rules';
import { asksPerMove, cubeRequest } from './cube-request';
import { largestCube, mostCells } from './cube-size';

const looksBeyondView = (condition: Condition) =>
  conditionKinds.get(condition.kind).looksBeyondView?.(condition) ?? false;

/**
 * Whether a chart can be drawn from what its window has in view, and a little around it: nothing that it says or shows goes
 * by what is further away, but for wholes, which are asked for besides.
 */
const needsOnlyItsWindow = (chart: Chart, board: Board, engine: FormulaEngine | null): boolean =>
  chart.window?.axis === 'following' &&
  leverOf(board, chart.window.lever) !== undefined &&
  chart.order.by === 'key' &&
  chart.split?.order?.by !== 'value' &&
  (compareOf(chart)?.with ?? 'whole') === 'whole' &&
  !chart.cues.some(
    ({ effect, off, condition }) => !off && (effect === 'keep' || looksBeyondView(condition)),
  ) &&
  !asksPerMove(cubeRequest(chart, board, engine, { perMove: true }));

/** Whether a chart asks for what its window has in view: all of its axis would be more than travels to a page. */
export const asksForItsWindow = (
  chart: Chart,
  board: Board,
  dataset: DatasetInfo,
  engine: FormulaEngine | null,
): boolean =>
  needsOnlyItsWindow(chart, board, engine) &&
  mostCells(cubeRequest(chart, board, engine, { perMove: true }), dataset) > largestCube;

/** What such a chart keeps of its axis where its window stands; null while that is not known. */
export function windowKept(
  { window, by }: Chart,
  board: Board,
  positionOf: (lever: string) => unknown,
  facts: Facts,
): Kept | null {
  const lever = window && leverOf(board, window.lever);
  const around = lever && kindOf(lever).around?.(lever, positionOf(lever.id), facts[lever.id]);
  if (!around) return null;
  return { field: by.field, ...(by.grain ? { grain: by.grain } : {}), ranges: [[around.from, around.to]] };
}
