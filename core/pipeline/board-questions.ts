import type { FormulaEngine } from '@sorvik/formula/engine';
import type { Board } from '../board/board';
import { enabledChart } from '../board/enabled';
import { type CubeRequest, partialKey } from '../data/cube';
import type { DatasetInfo } from '../data/dataset';
import { type Dimension, dimensionKey } from '../data/dimension';
import type { Kept } from '../data/kept';
import { kindOf } from '../levers/registry';
import { cubeRequest, filterDimensions } from './cube-request';

/** What one chart or lever of a board asks of a dataset. */
interface Asked {
  keys: ReadonlySet<string>;
  partials: ReadonlySet<string>;
  /** What its levers keep rows by. */
  kept: ReadonlySet<string>;
}

/** Which questions about a dataset the page of a board asks, wherever its levers stand; no others are those of its viewers. */
export interface BoardQuestions {
  /** Whether a question is one of them; of partial aggregates none are asked for where only the size is. */
  has(question: CubeRequest & { kept?: readonly Kept[] }): boolean;
  /** The fields whose values its levers list. */
  listed: ReadonlySet<string>;
}

const named = (dimensions: readonly Dimension[]) => new Set(dimensions.map(dimensionKey));
const isIn = (names: readonly string[], known: ReadonlySet<string>) => names.every((name) => known.has(name));

/** What the page of a board asks of a dataset. */
export function boardQuestions(board: Board, dataset: DatasetInfo, engine: FormulaEngine): BoardQuestions {
  const asked: Asked[] = [];
  for (const each of board.charts) {
    if (each.dataset !== dataset.id) continue;
    const chart = enabledChart(each);
    const whole = cubeRequest(chart, board, engine);
    const filters = filterDimensions(chart, board);
    asked.push({
      keys: named([...whole.keys, ...cubeRequest(chart, board, engine, { perMove: true }).keys]),
      partials: new Set(whole.partials.map(partialKey)),
      kept: named([...filters, ...(chart.window ? [chart.by] : [])]),
    });
    // Which values there are of what its levers filter by, so that what they keep can be said.
    for (const filter of filters)
      asked.push({ keys: named([filter]), partials: new Set(['count']), kept: new Set() });
  }
  const listed = new Set<string>();
  for (const lever of board.levers) {
    const kind = kindOf(lever);
    const source = kind.source?.(lever);
    if (source?.dataset !== dataset.id) continue;
    listed.add(source.field);
    const reads = kind.reads?.(lever, dataset);
    if (reads)
      asked.push({
        keys: named(reads.keys),
        partials: new Set(reads.partials.map(partialKey)),
        kept: new Set(),
      });
  }
  return {
    listed,
    has: ({ keys, partials, kept = [] }) =>
      asked.some(
        (one) =>
          isIn(keys.map(dimensionKey), one.keys) &&
          isIn(partials.map(partialKey), one.partials) &&
          isIn(kept.map(dimensionKey), one.kept),
      ),
  };
}
