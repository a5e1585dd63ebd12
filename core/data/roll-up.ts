import { allSteps, stepLength } from './all-steps';
import { type Cube, type CubeDimension, type PartialAggregate, partialKey, samePartial } from './cube';
import { type Dimension, dimensionKey, sameDimension } from './dimension';
import { ints } from './typed-lists';
import type { KeyValue } from './values';

/** One key of rolled-up groups: group `g` has `values[codes[g]]`; the last of the values is null. */
export interface RolledKey {
  values: readonly KeyValue[];
  codes: Int32Array;
}

/** The cells of a cube summed up to the combinations of some dimensions that occur, in no particular order. */
export interface RolledUp {
  length: number;
  /** One per dimension. */
  keys: RolledKey[];
  /** One array per wanted partial aggregate, one figure per group; NaN is null. */
  partials: Float64Array[];
}

const combine: Record<PartialAggregate['aggregate'], (a: number, b: number) => number> = {
  count: (a, b) => a + b,
  sum: (a, b) => a + b,
  min: Math.min,
  max: Math.max,
  first: Math.min,
  nonAdditive: () => Number.NaN,
};

/** Above this many possible combinations, those that occur are looked up instead of laid out. */
const laidOut = 2_000_000;

function dimensionOf(cube: Cube, dimension: Dimension): CubeDimension {
  const found = cube.dimensions.find((candidate) => sameDimension(candidate, dimension));
  if (!found) throw new Error(`The cube was made without ${dimensionKey(dimension)}.`);
  return found;
}

/** The group of each kept cell, -1 for the others, and the combined code of each group. */
function* groupsOf(cube: Cube, dimensions: readonly CubeDimension[], mask: Uint8Array | null) {
  const sizes = dimensions.map(({ values }) => values.length + 1);
  const possible = sizes.reduce((product, size) => product * size, 1);
  const table = possible <= laidOut ? new Int32Array(possible).fill(-1) : null;
  const map = new Map<number, number>();
  const groupOf = new Int32Array(cube.cells).fill(-1);
  const codes: number[] = [];
  for (let from = 0; from < cube.cells; from += stepLength) {
    const to = Math.min(cube.cells, from + stepLength);
    for (let i = from; i < to; i++) {
      if (mask && !mask[i]) continue;
      let code = 0;
      for (let d = 0; d < dimensions.length; d++) {
        const own = dimensions[d]!.codes[i]!;
        code = code * sizes[d]! + (own < 0 ? sizes[d]! - 1 : own);
      }
      let group = table ? table[code]! : (map.get(code) ?? -1);
      if (group < 0) {
        group = codes.push(code) - 1;
        if (table) table[code] = group;
        else map.set(code, group);
      }
      groupOf[i] = group;
    }
    yield;
  }
  return { groupOf, codes, sizes };
}

/** What cannot be added up is not known of a group of several cells. */
function forgetSeveral(totals: Float64Array, groupOf: Int32Array): void {
  const cells = new Int32Array(totals.length);
  for (const group of groupOf) if (group >= 0 && ++cells[group]! > 1) totals[group] = Number.NaN;
}

const sameDimensions = (a: readonly Dimension[], b: readonly Dimension[]) =>
  a.length === b.length && b.every((dimension) => a.some((other) => sameDimension(dimension, other)));

/**
 * Rolls a cube up to one or several dimensions. Cells where `mask` is 0 are left out; combinations with no cell left are not
 * returned. As in SQL, nulls are passed over, and a figure over nothing but nulls is null.
 */
export const rollUp = (...given: Parameters<typeof rollUpSteps>): RolledUp => allSteps(rollUpSteps(...given));

/** The same in steps. */
export function* rollUpSteps(
  whole: Cube,
  by: readonly Dimension[],
  wanted: readonly PartialAggregate[],
  mask: Uint8Array | null,
): Generator<void, RolledUp> {
  const cube = whole.levels?.find(({ dimensions }) => sameDimensions(dimensions, by)) ?? whole;
  const dimensions = by.map((dimension) => dimensionOf(cube, dimension));
  const { groupOf, codes, sizes } = yield* groupsOf(cube, dimensions, mask);
  const length = codes.length;
  const partials: Float64Array[] = [];
  for (const partial of wanted) {
    const source = cube.partials.find((candidate) => samePartial(candidate, partial));
    if (!source) throw new Error(`The cube was made without ${partialKey(partial)}.`);
    const { values } = source;
    const join = combine[partial.aggregate];
    const totals = new Float64Array(length).fill(Number.NaN);
    for (let from = 0; from < cube.cells; from += stepLength) {
      const to = Math.min(cube.cells, from + stepLength);
      for (let i = from; i < to; i++) {
        const group = groupOf[i]!;
        const value = values[i]!;
        if (group < 0 || Number.isNaN(value)) continue;
        const before = totals[group]!;
        totals[group] = Number.isNaN(before) ? value : join(before, value);
      }
      yield;
    }
    if (partial.aggregate === 'nonAdditive') forgetSeveral(totals, groupOf);
    partials.push(totals);
  }
  const keys: RolledKey[] = [];
  for (const [d, { values }] of dimensions.entries()) {
    const below = sizes.slice(d + 1).reduce((product, size) => product * size, 1);
    keys.push({
      values: [...values, null],
      codes: ints(codes.length, (group) => Math.floor(codes[group]! / below) % sizes[d]!),
    });
    yield;
  }
  return { length, keys, partials };
}

/** The values of one key, a value per group. */
export const keyValues = ({ values, codes }: RolledKey): KeyValue[] =>
  Array.from(codes, (code) => values[code]!);
