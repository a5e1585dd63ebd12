import type { Board } from '@sorvik/core/board/board';
import { enabledChart } from '@sorvik/core/board/enabled';
import { kindOf } from '@sorvik/core/levers/registry';
import { asksPerMove, cubeQuery, cubeRequest } from '@sorvik/core/pipeline/cube-request';
import { largestCube, mostCells } from '@sorvik/core/pipeline/cube-size';
import { fullEngine } from '@sorvik/formula/full-engine';
import { datasetInfos } from '../datasets/store';
import type { Db } from '../db/client';
import { HttpProblem } from '../http/problem';
import { shownBoard } from './versions';

/** What goes with the page of a show. */
export interface ShowOnPage {
  title: string;
  subtitle: string;
  /** It tells the time: what is drawn of it is so for a moment only. */
  ticks: boolean;
  /** The ground that it asks for. */
  ground: Board['ground'];
  /**
   * What the page asks for until its charts are there: the board, its datasets, and the cubes of its charts and levers, each by
   * its address. A browser that is told of them with the page fetches them all at once, beside the scripts.
   */
  requests: string[];
}

/** What goes with the page of a show; null where there is no such board. */
export async function showOnPage(db: Db, id: string): Promise<ShowOnPage | null> {
  const shown = await shownBoard(db, id).catch((error) => {
    if (error instanceof HttpProblem) return null;
    throw error;
  });
  if (!shown) return null;
  const { document: board } = shown;
  const named = [...board.charts, ...board.levers].flatMap(
    (part) => (part as { dataset?: string }).dataset ?? [],
  );
  const infos = await datasetInfos(db, [...new Set(named)]);
  const known = new Map(infos.map((dataset) => [dataset.id, dataset]));
  const found = new Set([`/api/boards/${id}/shown`]);
  const add = (dataset: string, request: Parameters<typeof cubeQuery>[0] | null | undefined) => {
    const info = known.get(dataset);
    if (!info) return;
    found.add(`/api/datasets/${dataset}`);
    // What cannot be added up, or is too much, is asked for with what the levers hold, which only the page knows.
    if (request && !asksPerMove(request) && mostCells(request, info) <= largestCube)
      found.add(`/api/datasets/${dataset}/cube?${cubeQuery(request, info.version)}`);
  };
  for (const chart of board.charts) add(chart.dataset, cubeRequest(enabledChart(chart), board, fullEngine));
  for (const lever of board.levers) {
    const { dataset } = lever as { dataset?: string };
    const info = dataset === undefined ? undefined : known.get(dataset);
    if (info) add(info.id, kindOf(lever).reads?.(lever, info));
  }
  const { title, subtitle = '', ground } = board;
  const ticks = board.levers.some((lever) => kindOf(lever).atInstant);
  return { title, subtitle, ticks, ground, requests: [...found] };
}
