import type { Cube } from './cube';
import { dimensionKey, sameDimension } from './dimension';
import type { RowFilter } from './row-filter';

/** One byte per cell, 1 where every filter keeps it; null when nothing is filtered, or the database has done it. */
export function cellMask(cube: Cube, filters: readonly RowFilter[]): Uint8Array | null {
  if (!filters.length || cube.asked || cube.levels) return null;
  const mask = new Uint8Array(cube.cells).fill(1);
  for (const filter of filters) {
    const dimension = cube.dimensions.find((candidate) => sameDimension(candidate, filter));
    if (!dimension)
      throw new Error(`The cube was made without ${dimensionKey(filter)}, which is filtered on.`);
    const kept = Uint8Array.from(dimension.values, (value) =>
      value !== null && filter.keeps(value) ? 1 : 0,
    );
    for (let i = 0; i < mask.length; i++) {
      const code = dimension.codes[i]!;
      if (code < 0 || !kept[code]) mask[i] = 0;
    }
  }
  return mask;
}
