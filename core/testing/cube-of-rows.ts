import type { Cube, CubeDimension, PartialAggregate } from '../data/cube';
import { type Dimension, dimensionKey } from '../data/dimension';
import { periodStart } from '../data/periods';
import type { KeyValue } from '../data/values';

export type TestRow = Readonly<Record<string, KeyValue>>;

/** A repeatable source of numbers from 0 up to below 1 (mulberry32). */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** The same items in another order. */
export function shuffled<T>(items: readonly T[], random: () => number): T[] {
  const list = [...items];
  for (let i = list.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [list[i], list[j]] = [list[j]!, list[i]!];
  }
  return list;
}

/** What a dimension of a row is: the field's value, or the first day of its period. */
export function valueOfRow(row: TestRow, { field, grain }: Dimension): KeyValue {
  const value = row[field] ?? null;
  return grain && typeof value === 'string' ? periodStart(value, grain) : value;
}

const numbersOf = (rows: readonly TestRow[], field: string | undefined): number[] =>
  rows.flatMap((row) => (field !== undefined && typeof row[field] === 'number' ? [row[field]] : []));

/** How a partial aggregate is computed from the rows of a cell: NaN is null. Those that cannot be added up go by what they are called in SQL. */
export type PartialOfRows = (partial: PartialAggregate, rows: readonly TestRow[]) => number;

export const plainPartial: PartialOfRows = ({ aggregate, field }, rows) => {
  const numbers = numbersOf(rows, field);
  if (aggregate === 'count')
    return field === undefined ? rows.length : rows.filter((row) => (row[field] ?? null) !== null).length;
  if (!numbers.length) return Number.NaN;
  if (aggregate === 'sum') return numbers.reduce((a, b) => a + b, 0);
  if (aggregate === 'min') return Math.min(...numbers);
  if (aggregate === 'max') return Math.max(...numbers);
  return Number.NaN;
};

/** The cube of some rows as the database could send it: its cells, and with them its dictionaries, in any order. */
export function cubeOfRows(
  rows: readonly TestRow[],
  keys: readonly Dimension[],
  partials: readonly PartialAggregate[],
  random: () => number,
  partialOf: PartialOfRows = plainPartial,
): Cube {
  const groups = new Map<string, { values: KeyValue[]; rows: TestRow[] }>();
  if (!keys.length) groups.set('[]', { values: [], rows: [] });
  for (const row of rows) {
    const values = keys.map((dimension) => valueOfRow(row, dimension));
    const name = JSON.stringify(values);
    const group = groups.get(name) ?? { values, rows: [] };
    groups.set(name, group);
    group.rows.push(row);
  }
  const cells = shuffled([...groups.values()], random);
  const dimensions = keys.map((dimension, k): CubeDimension => {
    const values: KeyValue[] = [];
    const codes = Int32Array.from(cells, ({ values: own }) => {
      const value = own[k]!;
      if (value === null) return -1;
      const code = values.indexOf(value);
      return code < 0 ? values.push(value) - 1 : code;
    });
    return { ...dimension, values, codes };
  });
  const firstOf = new Map(rows.map((row, i) => [row, i]));
  return {
    cells: cells.length,
    dimensions,
    partials: partials.map((partial) => ({
      ...partial,
      values: Float64Array.from(cells, ({ rows: own }) =>
        partial.aggregate === 'first'
          ? Math.min(...own.map((row) => firstOf.get(row)!))
          : partialOf(partial, own),
      ),
    })),
  };
}

/** The cubes of a chart whose figures are asked for: one for each combination of keys, each in an order of its own. */
export function askedCube(
  rows: readonly TestRow[],
  levels: readonly { keys: Dimension[]; partials: PartialAggregate[] }[],
  random: () => number,
  partialOf: PartialOfRows,
  keeps?: (row: TestRow) => boolean,
): Cube {
  const of = (list: readonly TestRow[]): Cube => {
    const cubes = levels.map(({ keys, partials }) => cubeOfRows(list, keys, partials, random, partialOf));
    return { ...cubes[0]!, levels: cubes };
  };
  return keeps ? { ...of(rows.filter(keeps)), all: of(rows) } : of(rows);
}

/** The rows of each combination of dimensions, by the key of a dimension. */
export const groupName = (row: TestRow, dimensions: readonly Dimension[]): string =>
  JSON.stringify(dimensions.map((dimension) => [dimensionKey(dimension), valueOfRow(row, dimension)]));
