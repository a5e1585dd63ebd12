import type { ShownBoard } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { enabledChart } from '@sorvik/core/board/enabled';
import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import type { DatasetInfo } from '@sorvik/core/data/dataset';
import { today } from '@sorvik/core/data/today';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { kindOf } from '@sorvik/core/levers/registry';
import { settledPositions } from '@sorvik/core/levers/settled-positions';
import { chartCube } from '@sorvik/core/pipeline/chart-cube';
import { leverFacts } from '@sorvik/core/pipeline/lever-facts';
import { fullEngine } from '@sorvik/formula/full-engine';
import type { Ask } from '../access/ask-as';
import { HttpProblem } from '../http/problem';
import type { ServerMessage } from '../tell';
import type { BoardStanding, ChartData } from './drawn';

/** Passes on why there is no answer. */
async function answered(response: Response): Promise<Response> {
  if (response.ok) return response;
  const {
    type = '',
    detail = '',
    errors,
  } = (await response.json()) as {
    type?: string;
    detail?: string;
    errors?: never;
  };
  throw new HttpProblem(
    response.status as HttpProblem['status'],
    type.replace('/problems/', '') as ServerMessage,
    detail,
    errors ? { errors } : {},
  );
}

/** What a board is for whoever asks: what is published of it. */
export const shownBoardFor = async (ask: Ask, id: string): Promise<ShownBoard> =>
  (await answered(await ask(`/api/boards/${encodeURIComponent(id)}/shown`))).json() as Promise<ShownBoard>;

/** Clocks tell the time at which a picture is made. */
function clocksAt(board: Board, positions: Positions, real: number): Positions {
  const told = board.levers.flatMap((lever) => {
    const position = kindOf(lever).atInstant?.(lever, positions[lever.id], real);
    return position === undefined ? [] : [[lever.id, position] as const];
  });
  return { ...positions, ...Object.fromEntries(told) };
}

/**
 * Asks for all that charts of a board are drawn from where its levers stand, as a page does: whoever asks is answered what
 * they would be on the page, and no more.
 */
export async function gathering(
  ask: Ask,
  { board, charts, positions: moved }: { board: Board; charts: readonly Chart[]; positions: Positions },
  now: Date,
): Promise<{ standing: BoardStanding; chart(chart: Chart): Promise<ChartData> }> {
  const known = new Map<string, Promise<DatasetInfo>>();
  const dataset = (of: string): Promise<DatasetInfo> => {
    let found = known.get(of);
    if (!found) {
      found = ask(`/api/datasets/${encodeURIComponent(of)}`)
        .then(answered)
        .then((response) => response.json() as Promise<DatasetInfo>);
      known.set(of, found);
    }
    return found;
  };
  const cube = async (of: string, query: string) => {
    const response = await answered(await ask(`/api/datasets/${encodeURIComponent(of)}/cube?${query}`));
    const version = Number(new URLSearchParams(query).get('version'));
    return { ...cubeFromArrow(new Uint8Array(await response.arrayBuffer())), version };
  };
  const positions = clocksAt(board, moved, now.getTime());
  const own = new Set(charts.map((chart) => chart.dataset));
  const facts = await leverFacts(board, positions, {
    // A list that cannot be read is no reason for having no picture of charts of other data.
    dataset: (of) => (own.size === 1 && own.has(of) ? dataset(of) : dataset(of).catch(() => undefined)),
    cube,
    absent: async (of, field, values) => {
      const response = await ask(
        `/api/datasets/${encodeURIComponent(of)}/fields/${encodeURIComponent(field)}/absent`,
        {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ values }),
        },
      );
      return response.ok ? ((await response.json()) as { absent: never[] }).absent : [];
    },
  });
  return {
    standing: { board, positions, facts, today: today(now) },
    async chart(described) {
      const chart = enabledChart(described);
      const info = await dataset(chart.dataset);
      const found = await chartCube(
        {
          ...{ chart, board, dataset: info, facts, today: today(now), engine: fullEngine },
          positionOf: settledPositions(board.levers, positions, facts),
        },
        {
          cube: (query) => cube(chart.dataset, query),
          cells: async (query) => {
            const path = `/api/datasets/${encodeURIComponent(chart.dataset)}/cube/size?${query}`;
            return ((await (await answered(await ask(path))).json()) as { cells: number }).cells;
          },
        },
      );
      return { chart: chart.id, dataset: info, cube: found };
    },
  };
}
