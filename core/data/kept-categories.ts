import type { Cube } from './cube';
import { type Dimension, sameDimension } from './dimension';
import type { KeyValue } from './values';

/**
 * Stands for all categories that a chart does not keep, taken together. No value of a dataset is like it: PostgreSQL has
 * no texts with this character.
 */
export const restCategory = '\u0000rest';

/** Which categories a chart keeps, and what becomes of the others. */
export interface KeptCategories {
  values: ReadonlySet<KeyValue>;
  /** How many there are, kept or not. */
  of: number;
  /** The others are one category together; left out, they are gone. */
  together?: true;
}

/**
 * A cube in which all categories of a dimension that are not kept are one, from whose cells its figures are put together
 * as any other's; or the mask that leaves them out.
 */
export function keptCells(
  cube: Cube,
  by: Dimension,
  kept: KeptCategories,
  mask: Uint8Array | null,
): { cube: Cube; mask: Uint8Array | null } {
  const { values, together } = kept;
  if (cube.levels) {
    const levels = cube.levels.map((level) =>
      level.dimensions.some((dimension) => sameDimension(dimension, by)) ? keptLevel(level, by, kept) : level,
    );
    return { cube: { ...cube, levels }, mask };
  }
  const at = cube.dimensions.findIndex((dimension) => sameDimension(dimension, by));
  const { codes, values: known } = cube.dimensions[at]!;
  const isKept = Uint8Array.from(known, (value) => (values.has(value) ? 1 : 0));
  const nullKept = values.has(null);
  const stays = (code: number) => (code < 0 ? nullKept : isKept[code] === 1);
  if (!together) {
    const left = mask?.slice() ?? new Uint8Array(cube.cells).fill(1);
    for (let i = 0; i < left.length; i++) if (!stays(codes[i]!)) left[i] = 0;
    return { cube, mask: left };
  }
  const rest = known.length;
  const dimensions = cube.dimensions.slice();
  dimensions[at] = {
    ...cube.dimensions[at]!,
    values: [...known, restCategory],
    codes: codes.map((code) => (stays(code) ? code : rest)),
  };
  return { cube: { ...cube, dimensions }, mask };
}

/** The same of one combination of an asked cube: cells that are not kept are dropped, for they cannot be added up. */
function keptLevel(level: Cube, by: Dimension, kept: KeptCategories): Cube {
  const { cube, mask } = keptCells(level, by, kept, null);
  if (!mask) return cube;
  const cells = Int32Array.from(mask.keys()).filter((i) => mask[i] === 1);
  return {
    ...cube,
    cells: cells.length,
    dimensions: cube.dimensions.map((dimension) => ({
      ...dimension,
      codes: Int32Array.from(cells, (i) => dimension.codes[i]!),
    })),
    partials: cube.partials.map((partial) => ({
      ...partial,
      values: Float64Array.from(cells, (i) => partial.values[i]!),
    })),
  };
}
