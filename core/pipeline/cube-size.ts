import type { CubeRequest } from '../data/cube';
import { type DatasetInfo, fieldOf } from '../data/dataset';
import { periodOrdinal } from '../data/periods';

/**
 * Cells of the largest cube that is fetched so that its levers ask nothing more: rolling it up keeps the page busy for under
 * 50 ms. A chart that would need more is asked per move.
 */
export const largestCube = 250_000;

/** Cells of the largest answer that travels to a page: so many readings one picture can have. */
export const largestAnswer = 2_000_000;

/** How many values a key has at most; a missing one is a value of its own. */
function mostValues({ field: key, grain }: CubeRequest['keys'][number], dataset: DatasetInfo): number {
  const profile = fieldOf(dataset, key)?.profile;
  if (!profile) return dataset.rows;
  const { distinct, missing, min, max } = profile;
  const periods =
    grain && typeof min === 'string' && typeof max === 'string'
      ? periodOrdinal(max.slice(0, 10), grain) - periodOrdinal(min.slice(0, 10), grain) + 1
      : distinct;
  return Math.min(distinct, periods) + (missing ? 1 : 0);
}

/** So many cells a cube has at most, by what is known of its fields. There may be far fewer: not all combinations occur. */
export const mostCells = ({ keys }: CubeRequest, dataset: DatasetInfo): number =>
  Math.min(
    dataset.rows,
    keys.reduce((cells, key) => cells * mostValues(key, dataset), 1),
  );
