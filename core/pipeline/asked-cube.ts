import type { FormulaEngine } from '@sorvik/formula/engine';
import { type Board, leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import type { Cube } from '../data/cube';
import { type DatasetInfo, fieldOf } from '../data/dataset';
import { type Kept, keptOf } from '../data/kept';
import type { PositionLookup } from '../levers/lever-kind';
import type { Facts } from '../levers/settled-positions';
import { type AskedLevel, cubeQuery } from './cube-request';
import { rowFilters } from './row-filters';
import { windowKept } from './window-asked';

/** Gives the cube of a query (`cubeQuery`), from wherever the data are. */
export type AskCube = (query: string) => Promise<Cube>;

/** A chart, and where its levers stand. */
export interface AskedChart {
  chart: Chart;
  board: Board;
  dataset: DatasetInfo;
  positionOf: PositionLookup;
  facts: Facts;
  /** The day that is today, `YYYY-MM-DD`. */
  today: string;
  engine: FormulaEngine | null;
}

/** Which rows a chart is asked for: what its filters keep of the values that there are, and what is in view of its axis. */
export interface AskedRows {
  kept: Kept[];
  inView: Kept[];
}

/** Finds which rows a chart is to be asked for; `windowed` where it asks for what its window has in view. */
export async function askedRows(
  { chart, board, dataset, positionOf, facts, today, engine }: AskedChart,
  windowed: boolean,
  ask: AskCube,
): Promise<AskedRows> {
  const inView = windowed ? windowKept(chart, board, positionOf, facts) : null;
  const filters = rowFilters(chart, { lever: (id) => leverOf(board, id), positionOf, today, engine });
  const kept = await Promise.all(
    filters.map(async (filter) => {
      const { field, grain } = filter;
      const domain = { keys: [{ field, grain }], partials: [{ aggregate: 'count' as const }] };
      const { dimensions } = await ask(cubeQuery(domain, dataset.version));
      return keptOf(filter, dimensions[0]!.values, fieldOf(dataset, field)!.type);
    }),
  );
  return { kept, inView: inView ? [inView] : [] };
}

/** What was found for each level, where one answer has not all. */
const answer = (levels: readonly Cube[]): Cube => ({
  ...levels[0]!,
  asked: true,
  ...(levels.length > 1 ? { levels } : {}),
});

/** The cube of a chart that asks per move, of some of its rows: those that its filters keep, and what it sets them against. */
export async function askedCube(
  chart: Chart,
  version: number,
  levels: readonly AskedLevel[],
  { kept, inView }: AskedRows,
  ask: AskCube,
): Promise<Cube> {
  const askFor = (rows: readonly Kept[]) =>
    Promise.all(
      levels.map(({ overall, ...level }) =>
        ask(cubeQuery(level, version, [...rows, ...(overall ? [] : inView)])),
      ),
    );
  // Earlier periods that are left out are what the first ones kept are compared with.
  const timeless = kept.filter(({ field }) => field !== chart.by.field);
  const compares = chart.compare?.with === 'previous' || chart.compare?.with === 'year';
  const apart = compares && timeless.length > 0 && timeless.length < kept.length;
  const [found, all, untimed] = await Promise.all([
    askFor(kept),
    kept.length ? askFor([]) : undefined,
    apart ? askFor(timeless) : undefined,
  ]);
  return {
    ...answer(found),
    ...(all ? { all: answer(all) } : {}),
    ...(untimed ? { untimed: answer(untimed) } : {}),
  };
}
