import { enabledChart } from '@sorvik/core/board/enabled';
import { today } from '@sorvik/core/data/today';
import type { TextMeasure } from '@sorvik/core/forms/scene';
import { type PlainPosition, positionTexts } from '@sorvik/core/levers/plain-position';
import { positionsFromQuery } from '@sorvik/core/levers/positions';
import { kindOf } from '@sorvik/core/levers/registry';
import { settledPositions } from '@sorvik/core/levers/settled-positions';
import { chartStages } from '@sorvik/core/pipeline/chart-stages';
import { cubeQuery, cubeRequest } from '@sorvik/core/pipeline/cube-request';
import { type PlainMark, plainMarks } from '@sorvik/core/pipeline/plain-marks';
import { chartCaption } from '@sorvik/core/text/chart-words';
import { datasetOfRows } from './own-data/dataset-of-rows';
import { ownBoard } from './own-data/own-board';
import { answered } from './own-data/own-source';
import { plainRow } from './own-data/read-rows';

/** How a chart is lit, as plain data. */
export interface Lit {
  /** All marks, in the order of the chart. */
  marks: PlainMark[];
  /** What is lit, in words. */
  caption: string;
}

/** About as wide as texts are: nobody sees them here. */
const roughly: TextMeasure = (text, size) => text.length * size * 0.55;

/**
 * How a chart of rows is lit where its levers stand, for those who draw it themselves: a pure function. `description` is a chart, or a
 * board with levers and one chart, as the JSON Schema has them. Throws where that cannot be read, or where a figure can only be computed
 * by a server.
 */
export function light(
  rows: readonly object[],
  description: object,
  positions: Readonly<Record<string, PlainPosition>> = {},
): Lit {
  const plain = rows.map(plainRow);
  const board = ownBoard(description);
  const dataset = datasetOfRows(plain, 1);
  const facts = Object.fromEntries(
    board.levers.map((lever) => {
      const request = kindOf(lever).reads?.(lever, dataset);
      return [lever.id, { dataset, ...(request ? { cube: answered(plain, cubeQuery(request, 1)) } : {}) }];
    }),
  );
  const said = new URLSearchParams(
    Object.entries(positions).flatMap(([id, position]) => positionTexts(position).map((text) => [id, text])),
  );
  const chart = enabledChart(board.charts[0]!);
  const result = chartStages().run({
    ...{ board, chart, dataset, facts, engine: null, measure: roughly },
    cube: answered(plain, cubeQuery(cubeRequest(chart, board, null), 1)),
    positionOf: settledPositions(board.levers, positionsFromQuery(board.levers, said).positions, facts),
    today: today(),
    ...{ width: 640, height: 360, miniature: false, focus: -1, focusSeries: -1 },
  });
  return { marks: plainMarks(result), caption: chartCaption(result) };
}
