import { type Board, datasetOf } from '../board/board';
import type { Chart } from '../board/chart';
import type { Cube } from '../data/cube';
import { type DatasetInfo, fieldOf } from '../data/dataset';
import type { KeyValue } from '../data/values';
import type { LeverFacts, Positions } from '../levers/lever-kind';
import { staysOnServer } from '../levers/listed';
import { kindOf, type Lever } from '../levers/registry';
import type { Facts } from '../levers/settled-positions';
import { cubeQuery } from './cube-request';

/** What is asked for the levers of a board. */
export interface FactSource {
  /** A dataset of the board; undefined where it cannot be had. */
  dataset(id: string): Promise<DatasetInfo | undefined>;
  cube(dataset: string, query: string): Promise<Cube>;
  /** Which of some values of a field are not in the data. */
  absent(dataset: string, field: string, values: readonly KeyValue[]): Promise<readonly KeyValue[]>;
}

/** Whether a chart's window is moved by a lever along an order that is not that of its categories. */
export const movesByPlace = (lever: Lever, charts: readonly Chart[]): boolean =>
  charts.some(({ window, order }) => window?.lever === lever.id && order.by !== 'key');

/** The values that a lever holds. */
export function heldValues(lever: Lever, positions: Positions): readonly KeyValue[] {
  const kind = kindOf(lever);
  return kind.values?.(lever.id in positions ? positions[lever.id] : kind.start(lever, undefined)) ?? [];
}

async function factsOf(
  lever: Lever,
  board: Board,
  positions: Positions,
  source: FactSource,
): Promise<LeverFacts | undefined> {
  const id = datasetOf(lever);
  const dataset = id ? await source.dataset(id) : undefined;
  if (!id || !dataset) return undefined;
  const kind = kindOf(lever);
  const dimension = kind.source?.(lever);
  // A field that is not there any more says nothing of its lever.
  const isThere = !dimension || fieldOf(dataset, dimension.field) !== undefined;
  const request = isThere ? kind.reads?.(lever, dataset) : null;
  const held = dimension && isThere && staysOnServer(dataset, dimension) ? heldValues(lever, positions) : [];
  const [cube, gone] = await Promise.all([
    request ? source.cube(id, cubeQuery(request, dataset.version)) : undefined,
    held.length ? source.absent(id, dimension!.field, held) : [],
  ]);
  return {
    dataset,
    ...(cube ? { cube } : {}),
    ...(movesByPlace(lever, board.charts) ? { byPlace: true } : {}),
    ...(gone.length ? { gone: new Set(gone) } : {}),
  };
}

/** What the data says of each lever of a board, asked for once. Rejects as the source does. */
export async function leverFacts(board: Board, positions: Positions, source: FactSource): Promise<Facts> {
  const found = await Promise.all(
    board.levers.map(async (lever) => [lever.id, await factsOf(lever, board, positions, source)] as const),
  );
  return Object.fromEntries(found.filter(([, facts]) => facts !== undefined));
}
