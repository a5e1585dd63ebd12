import { cutKey, type FieldCut, sameCut } from '../grain';
import type { KeyValue } from '../values';
import { type Atom, atomKey, type Cube, sameAtom } from './cube';

/** The cells of a cube summed up to the categories of one cut, in no particular order. */
export interface RolledUp {
  categories: KeyValue[];
  /** One array per wanted atom, one figure per category; NaN is null. */
  atoms: Float64Array[];
}

const combine: Record<Atom['aggregate'], (a: number, b: number) => number> = {
  count: (a, b) => a + b,
  sum: (a, b) => a + b,
  min: Math.min,
  max: Math.max,
  first: Math.min,
};

/**
 * Rolls a cube up to `cut`. Cells where `mask` is 0 are left out; categories with no cell left are not returned.
 * As in SQL, nulls are passed over, and a figure over nothing but nulls is null.
 */
export function rollUp(
  cube: Cube,
  cut: FieldCut,
  wanted: readonly Atom[],
  mask: Uint8Array | null,
): RolledUp {
  const dimension = cube.dimensions.find((candidate) => sameCut(candidate, cut));
  if (!dimension) throw new Error(`The cube was made without ${cutKey(cut)}.`);
  const missing = dimension.values.length;
  const { codes } = dimension;
  const present = new Uint8Array(missing + 1);
  for (let i = 0; i < cube.cells; i++) {
    if (mask && !mask[i]) continue;
    const code = codes[i]!;
    present[code < 0 ? missing : code] = 1;
  }
  const groups: number[] = [];
  for (let group = 0; group <= missing; group++) if (present[group]) groups.push(group);

  const atoms = wanted.map((atom) => {
    const source = cube.atoms.find((candidate) => sameAtom(candidate, atom));
    if (!source) throw new Error(`The cube was made without ${atomKey(atom)}.`);
    const { values } = source;
    const join = combine[atom.aggregate];
    const totals = new Float64Array(missing + 1).fill(Number.NaN);
    for (let i = 0; i < cube.cells; i++) {
      if (mask && !mask[i]) continue;
      const value = values[i]!;
      if (Number.isNaN(value)) continue;
      const group = codes[i]! < 0 ? missing : codes[i]!;
      const before = totals[group]!;
      totals[group] = Number.isNaN(before) ? value : join(before, value);
    }
    return Float64Array.from(groups, (group) => totals[group]!);
  });
  return { categories: groups.map((group) => (group === missing ? null : dimension.values[group]!)), atoms };
}
