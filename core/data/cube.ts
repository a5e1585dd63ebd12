import type { Dimension } from './dimension';
import type { KeyValue } from './values';

export const partialAggregates = ['count', 'sum', 'min', 'max', 'first', 'nonAdditive'] as const;

/**
 * What the database aggregates: figures that can be added up further. `count` without a field counts rows; `first`
 * is the place of the earliest row, by which categories keep the data's own order; `nonAdditive` is one that cannot be
 * added up, a call in SQL as a whole in `of`: `COUNT(DISTINCT vessel)`.
 */
export interface PartialAggregate {
  aggregate: (typeof partialAggregates)[number];
  field?: string | undefined;
  /** In place of a field, what is aggregated: an SQL expression of the fields of a row. */
  of?: string | undefined;
  /** Only rows of which this SQL expression is true. */
  where?: string | undefined;
}

export interface CubeRequest {
  keys: Dimension[];
  partials: PartialAggregate[];
}

/** One dictionary-coded key of a cube: cell `i` has `values[codes[i]]`, or no value where the code is -1. */
export interface CubeDimension extends Dimension {
  values: KeyValue[];
  codes: Int32Array;
}

/** One figure per cell; NaN stands for null. */
export interface CubePartial extends PartialAggregate {
  values: Float64Array;
}

/** One aggregate per combination of its dimensions that occurs in the rows. */
export interface Cube {
  cells: number;
  dimensions: CubeDimension[];
  partials: CubePartial[];
  /** The version of the dataset that was asked. */
  version?: number;
  /** The database has applied the filters: what it found is all there is. */
  asked?: true;
  /**
   * Where the cells do not add up to all that is to be known, since figures cannot be added up or a window has only some in
   * view: the database has applied the filters, and has been asked for each of these combinations of dimensions. `all` is
   * the same without filters, where there are any, and `untimed` without those on the chart's own category, where it
   * compares with earlier periods.
   */
  levels?: readonly Cube[];
  all?: Cube;
  untimed?: Cube;
}

/** Where the database has applied the filters: what it found without them, when there are none now. */
export const filteredBy = (cube: Cube, filters: readonly unknown[]): Cube =>
  filters.length ? cube : (cube.all ?? cube);

export const samePartial = (a: PartialAggregate, b: PartialAggregate) =>
  a.aggregate === b.aggregate && a.field === b.field && a.of === b.of && a.where === b.where;

/** `sum.passengers`; a partial aggregate of expressions is a list: `["sum",null,"revenue - fuel",null]`. */
export const partialKey = ({ aggregate, field, of, where }: PartialAggregate) =>
  of !== undefined || where !== undefined
    ? JSON.stringify([aggregate, field ?? null, of ?? null, where ?? null])
    : field
      ? `${aggregate}.${field}`
      : aggregate;

const parsed = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
};

/** The partial aggregate that a key names, whatever its fields; null for what is no key of one. */
export function partialFromKey(key: string): PartialAggregate | null {
  const list = key.startsWith('[') ? parsed(key) : key.split('.');
  if (!Array.isArray(list) || list.length > 4) return null;
  const [name, ...rest] = list;
  const aggregate = partialAggregates.find((known) => known === name);
  if (!aggregate || rest.some((part) => part !== null && typeof part !== 'string')) return null;
  const [field, of, where] = rest as (string | null | undefined)[];
  return {
    aggregate,
    ...(field ? { field } : {}),
    ...(of ? { of } : {}),
    ...(where ? { where } : {}),
  };
}
