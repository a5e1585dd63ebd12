import type { Cube, CubeDimension, CubePartial, CubeRequest, PartialAggregate } from './cube';
import type { Dimension } from './dimension';
import type { Kept } from './kept';
import { periodStart } from './periods';
import { compareKeys, type KeyValue } from './values';

/** A row by the keys of its fields. */
export type PlainRow = Readonly<Record<string, KeyValue>>;

/** The value of a dimension of each row: of a date with a grain the first day of its period. */
function valuesOf(rows: readonly PlainRow[], { field, grain }: Dimension): KeyValue[] {
  const periods = new Map<KeyValue, KeyValue>();
  return rows.map((row) => {
    const value = row[field] ?? null;
    if (!grain || typeof value !== 'string') return value;
    let period = periods.get(value);
    if (period === undefined) {
      period = periodStart(value, grain);
      periods.set(value, period);
    }
    return period;
  });
}

const keeps = ({ values, ranges }: Kept, value: KeyValue): boolean =>
  value !== null &&
  (values?.includes(value) ||
    ranges?.some(([from, to]) => compareKeys(from, value) <= 0 && compareKeys(value, to) <= 0) ||
    false);

/** The rows of which each filter keeps the value. */
function keptRows(rows: readonly PlainRow[], kept: readonly Kept[]): readonly PlainRow[] {
  let left = rows;
  for (const filter of kept) {
    const known = new Map<KeyValue, boolean>();
    const values = valuesOf(left, filter);
    left = left.filter((_, i) => {
      const value = values[i]!;
      let keep = known.get(value);
      if (keep === undefined) {
        keep = keeps(filter, value);
        known.set(value, keep);
      }
      return keep;
    });
  }
  return left;
}

const missing = Number.NaN;

/** What takes a row into the figure of its cell; NaN stands for none. */
const steps: Partial<
  Record<PartialAggregate['aggregate'], (figure: number, value: number, row: number) => number>
> = {
  sum: (figure, value) => (Number.isNaN(figure) ? value : figure + value),
  min: (figure, value) => (figure <= value ? figure : value),
  max: (figure, value) => (figure >= value ? figure : value),
};

function partialValues(
  { aggregate, field, of, where }: PartialAggregate,
  rows: readonly PlainRow[],
  cellOf: Int32Array,
  cells: number,
): Float64Array {
  if (of !== undefined || where !== undefined || aggregate === 'nonAdditive') throw new RangeError('formula');
  const figures = new Float64Array(cells).fill(aggregate === 'count' ? 0 : missing);
  const step = steps[aggregate];
  rows.forEach((row, i) => {
    const cell = cellOf[i]!;
    if (aggregate === 'first') {
      if (Number.isNaN(figures[cell]!)) figures[cell] = i;
      return;
    }
    const value = field === undefined ? true : (row[field] ?? null);
    if (value === null) return;
    if (aggregate === 'count') figures[cell]!++;
    else if (typeof value === 'number') figures[cell] = step!(figures[cell]!, value, i);
  });
  return figures;
}

/**
 * The cube of rows that are here, as the database would send it. Throws a `RangeError` for what only the database can compute: formulas,
 * and figures that cannot be added up.
 */
export function cubeOfRows(
  all: readonly PlainRow[],
  { keys, partials }: CubeRequest,
  kept: readonly Kept[] = [],
): Cube {
  const rows = keptRows(all, kept);
  const cellOf = new Int32Array(rows.length);
  const codes = keys.map((dimension) => {
    const values: KeyValue[] = [];
    const known = new Map<KeyValue, number>([[null, -1]]);
    const of = Int32Array.from(valuesOf(rows, dimension), (value) => {
      let code = known.get(value);
      if (code === undefined) {
        code = values.push(value) - 1;
        known.set(value, code);
      }
      return code;
    });
    return { dimension, values, of };
  });
  // One number for each combination of codes, as it comes.
  let cells = 0;
  for (const { of, values } of codes) {
    const known = new Map<number, number>();
    for (let i = 0; i < rows.length; i++) {
      const name = cellOf[i]! * (values.length + 1) + of[i]! + 1;
      let cell = known.get(name);
      if (cell === undefined) {
        cell = known.size;
        known.set(name, cell);
      }
      cellOf[i] = cell;
    }
    cells = known.size;
  }
  // Without keys there is one cell, also of no rows.
  if (!keys.length) cells = 1;
  return {
    cells,
    dimensions: codes.map(({ dimension, values, of }): CubeDimension => {
      const ofCell = new Int32Array(cells);
      for (let i = 0; i < rows.length; i++) ofCell[cellOf[i]!] = of[i]!;
      return { ...dimension, values, codes: ofCell };
    }),
    partials: partials.map(
      (partial): CubePartial => ({ ...partial, values: partialValues(partial, rows, cellOf, cells) }),
    ),
  };
}
