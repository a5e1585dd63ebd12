import { type Cube, type CubeRequest, partialFromKey } from '@sorvik/core/data/cube';
import { cubeOfRows, type PlainRow } from '@sorvik/core/data/cube-of-rows';
import type { DatasetInfo } from '@sorvik/core/data/dataset';
import { dimensionFromKey } from '@sorvik/core/data/dimension';
import type { Kept } from '@sorvik/core/data/kept';
import { compareKeys, type KeyValue } from '@sorvik/core/data/values';
import { type BoardSource, type FoundValues, SourceProblem } from '../board-source';
import { datasetOfRows } from './dataset-of-rows';
import { ownBoard } from './own-board';
import { readRows } from './read-rows';

/** The question that a query asks (`cubeQuery`). */
function questionOf(query: string): CubeRequest & { kept: Kept[] } {
  const asked = new URLSearchParams(query);
  return {
    keys: asked.getAll('key').map(dimensionFromKey),
    partials: asked.getAll('aggregate').map((key) => partialFromKey(key)!),
    kept: asked.getAll('keep').map((text) => JSON.parse(text) as Kept),
  };
}

/** The cube of a query over rows. Throws a `SourceProblem` for what only a server can compute. */
export function answered(rows: readonly PlainRow[], query: string): Cube {
  const { kept, ...question } = questionOf(query);
  try {
    return { ...cubeOfRows(rows, question, kept), version: 1 };
  } catch (error) {
    if (error instanceof RangeError) throw new SourceProblem('embed.problem.aggregate');
    throw error;
  }
}

const fewValues = 50;

/** A board of rows in the page: nothing is asked of any server. */
export class OwnSource implements Omit<BoardSource, 'follow'> {
  private readonly rows: Promise<PlainRow[]>;
  private readonly info: Promise<DatasetInfo>;

  constructor(
    given: unknown,
    private readonly described: unknown,
  ) {
    this.rows = readRows(given);
    this.info = this.rows.then((rows) => datasetOfRows(rows, 1));
    // Whoever asks hears of it.
    this.info.catch(() => {});
  }

  async board() {
    const board = ownBoard(this.described);
    await this.info;
    return board;
  }

  dataset() {
    return this.info;
  }

  async cube(_dataset: string, query: string) {
    return answered(await this.rows, query);
  }

  async cells(_dataset: string, query: string) {
    return answered(await this.rows, query).cells;
  }

  async absent(_dataset: string, field: string, values: readonly KeyValue[]) {
    const known = new Set((await this.rows).map((row) => row[field] ?? null));
    return values.filter((value) => !known.has(value));
  }

  async values(_dataset: DatasetInfo, field: string, search: string): Promise<FoundValues> {
    const wanted = search.trim().toLocaleLowerCase();
    const all = [...new Set((await this.rows).map((row) => row[field] ?? null))];
    const found = all.filter((value) => value !== null && String(value).toLocaleLowerCase().includes(wanted));
    return { found: found.length, values: found.sort(compareKeys).slice(0, fewValues) };
  }
}
