import type { Atom, Cube, CubeDimension } from '../data/cube';
import { cutKey, type FieldCut } from '../data/grain';
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

/** What a cut of a row is: the field's value, or the first day of its period. */
export function cutOfRow(row: TestRow, { field, grain }: FieldCut): KeyValue {
  const value = row[field] ?? null;
  return grain && typeof value === 'string' ? periodStart(value, grain) : value;
}

const numbersOf = (rows: readonly TestRow[], field: string | undefined): number[] =>
  rows.flatMap((row) => (field !== undefined && typeof row[field] === 'number' ? [row[field]] : []));

/** How an atom is computed from the rows of a cell: NaN is null. `asked` atoms by what they are called in SQL. */
export type AtomOfRows = (atom: Atom, rows: readonly TestRow[]) => number;

export const plainAtom: AtomOfRows = ({ aggregate, field }, rows) => {
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
  keys: readonly FieldCut[],
  atoms: readonly Atom[],
  random: () => number,
  atomOf: AtomOfRows = plainAtom,
): Cube {
  const groups = new Map<string, { values: KeyValue[]; rows: TestRow[] }>();
  if (!keys.length) groups.set('[]', { values: [], rows: [] });
  for (const row of rows) {
    const values = keys.map((cut) => cutOfRow(row, cut));
    const name = JSON.stringify(values);
    const group = groups.get(name) ?? { values, rows: [] };
    groups.set(name, group);
    group.rows.push(row);
  }
  const cells = shuffled([...groups.values()], random);
  const dimensions = keys.map((cut, k): CubeDimension => {
    const values: KeyValue[] = [];
    const codes = Int32Array.from(cells, ({ values: own }) => {
      const value = own[k]!;
      if (value === null) return -1;
      const code = values.indexOf(value);
      return code < 0 ? values.push(value) - 1 : code;
    });
    return { ...cut, values, codes };
  });
  const firstOf = new Map(rows.map((row, i) => [row, i]));
  return {
    cells: cells.length,
    dimensions,
    atoms: atoms.map((atom) => ({
      ...atom,
      values: Float64Array.from(cells, ({ rows: own }) =>
        atom.aggregate === 'first' ? Math.min(...own.map((row) => firstOf.get(row)!)) : atomOf(atom, own),
      ),
    })),
  };
}

/** The cubes of a chart whose figures are asked for: one for each combination of keys, each in an order of its own. */
export function askedCube(
  rows: readonly TestRow[],
  levels: readonly { keys: FieldCut[]; atoms: Atom[] }[],
  random: () => number,
  atomOf: AtomOfRows,
  keeps?: (row: TestRow) => boolean,
): Cube {
  const of = (list: readonly TestRow[]): Cube => {
    const cubes = levels.map(({ keys, atoms }) => cubeOfRows(list, keys, atoms, random, atomOf));
    return { ...cubes[0]!, levels: cubes };
  };
  return keeps ? { ...of(rows.filter(keeps)), all: of(rows) } : of(rows);
}

/** The rows of each combination of cuts, by the key of a cut. */
export const groupName = (row: TestRow, cuts: readonly FieldCut[]): string =>
  JSON.stringify(cuts.map((cut) => [cutKey(cut), cutOfRow(row, cut)]));
