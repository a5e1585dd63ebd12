import type { FieldCut } from '../grain';
import type { KeyValue } from '../values';

export const atomAggregates = ['count', 'sum', 'min', 'max', 'first'] as const;

/**
 * What the database aggregates: figures that can be added up further. `count` without a field counts rows; `first`
 * is the place of the earliest row, by which categories keep the data's own order.
 */
export interface Atom {
  aggregate: (typeof atomAggregates)[number];
  field?: string | undefined;
}

export interface CubeRequest {
  keys: FieldCut[];
  atoms: Atom[];
}

/** One dictionary-coded key of a cube: cell `i` has `values[codes[i]]`, or no value where the code is -1. */
export interface CubeDimension extends FieldCut {
  values: KeyValue[];
  codes: Int32Array;
}

/** One figure per cell; NaN stands for null. */
export interface CubeAtom extends Atom {
  values: Float64Array;
}

/** One aggregate per combination of its dimensions that occurs in the rows. */
export interface Cube {
  cells: number;
  dimensions: CubeDimension[];
  atoms: CubeAtom[];
}

export const sameAtom = (a: Atom, b: Atom) => a.aggregate === b.aggregate && a.field === b.field;
export const atomKey = (atom: Atom) => (atom.field ? `${atom.aggregate}.${atom.field}` : atom.aggregate);
