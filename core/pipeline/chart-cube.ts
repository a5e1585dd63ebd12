import type { Cube } from '../data/cube';
import { type AskCube, type AskedChart, askedCube, askedRows } from './asked-cube';
import { asksPerMove, cubeQuery, cubeRequest, requestLevels, sizeQuery } from './cube-request';
import { largestCube, mostCells } from './cube-size';
import { asksForItsWindow } from './window-asked';

/** Where a chart's data come from: the cube of a query, and how many cells one would have (`sizeQuery`). */
export interface CubeSource {
  cube: AskCube;
  cells(query: string): Promise<number>;
}

/**
 * The cube of a chart where its levers stand, asked for once: with all that its levers filter on where that is small
 * enough, else of what they keep. Rejects as the source does.
 */
export async function chartCube(asked: AskedChart, source: CubeSource): Promise<Cube> {
  const { chart, board, dataset, engine } = asked;
  const { version } = dataset;
  const whole = cubeRequest(chart, board, engine);
  if (!asksPerMove(whole)) {
    const isSmall =
      mostCells(whole, dataset) <= largestCube ||
      (await source.cells(sizeQuery(whole, version))) <= largestCube;
    if (isSmall) return { ...(await source.cube(cubeQuery(whole, version))), version };
  }
  const windowed = asksForItsWindow(chart, board, dataset, engine);
  const request = cubeRequest(chart, board, engine, { perMove: true });
  const levels = requestLevels(request, windowed ? chart : undefined);
  const rows = await askedRows(asked, windowed, source.cube);
  return { ...(await askedCube(chart, version, levels, rows, source.cube)), version };
}
