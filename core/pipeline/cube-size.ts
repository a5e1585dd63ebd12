import type { CubeRequest } from '../data/cube';
import { type DatasetInfo, type FieldProfile, fieldOf } from '../data/dataset';
import type { Dimension } from '../data/dimension';
import { periodOrdinal } from '../data/periods';

/**
 * Cells of the largest cube that is fetched so that its levers ask nothing more: rolling it up keeps the page busy for under
 * 50 ms. A chart that would need more is asked per move.
 */
export const largestCube = 250_000;

/** Cells of the largest answer that travels to a page: so many readings one picture can have. */
export const largestAnswer = 2_000_000;

/** How many values a key has at most; a missing one is a value of its own. */
function mostValues(grain: Dimension['grain'], profile: FieldProfile | undefined): number {
  if (!profile) return Number.POSITIVE_INFINITY;
  const { distinct, missing, min, max } = profile;
  const periods =
    grain && typeof min === 'string' && typeof max === 'string'
      ? periodOrdinal(max.slice(0, 10), grain) - periodOrdinal(min.slice(0, 10), grain) + 1
      : distinct;
  return Math.min(distinct, periods) + (missing ? 1 : 0);
}

/** So many combinations of dimensions there are at most, by the profiles of their fields. */
export const mostCombinations = (
  keys: readonly Dimension[],
  profileOf: (field: string) => FieldProfile | undefined,
): number => keys.reduce((cells, { field, grain }) => cells * mostValues(grain, profileOf(field)), 1);

/** So many cells a cube has at most, by what is known of its fields. There may be far fewer: not all combinations occur. */
export const mostCells = ({ keys }: CubeRequest, dataset: DatasetInfo): number =>
  Math.min(
    dataset.rows,
    mostCombinations(keys, (field) => fieldOf(dataset, field)?.profile ?? undefined),
  );
