import { aggregateFunction, type Tally } from './aggregates';
import { compareSorted } from './compare';
import type { Compiled, Rows } from './compiled';
import type { Over, Value, ValueType } from './expression';

/** What a window function is given for one row. */
interface Seat {
  /** The rows of its partition in order; where this row is among them, and where its peers begin and end. */
  rows: Int32Array;
  at: number;
  firstPeer: number;
  lastPeer: number;
  /** How many different places there are up to this row. */
  dense: number;
  /** The first and the last row of its frame, by their place; the last before the first for none. */
  from: number;
  to: number;
}

/** A function that looks at other rows. */
export interface WindowFunction {
  name: string;
  signature: string;
  takes: (ValueType | 'any')[];
  optional?: number;
  gives: ValueType | 'any';
  of(seat: Seat, args: ((row: number) => Value)[]): Value;
}

const whole = (value: Value | undefined, usual: number) =>
  typeof value === 'number' ? Math.trunc(value) : usual;

/** The value some rows before this one, or after it; another value where there is no such row. */
const shifted =
  (sign: number): WindowFunction['of'] =>
  (seat, args) => {
    const row = seat.rows[seat.at]!;
    const offset = args[1] ? args[1](row) : 1;
    if (offset === null) return null;
    const at = seat.at + sign * whole(offset, 1);
    return at < 0 || at >= seat.rows.length ? (args[2]?.(row) ?? null) : args[0]!(seat.rows[at]!);
  };

export const windowFunctions: WindowFunction[] = [
  {
    name: 'ROW_NUMBER',
    signature: 'ROW_NUMBER() OVER (ORDER BY ..)',
    takes: [],
    gives: 'number',
    of: ({ at }) => at + 1,
  },
  {
    name: 'RANK',
    signature: 'RANK() OVER (ORDER BY ..)',
    takes: [],
    gives: 'number',
    of: ({ firstPeer }) => firstPeer + 1,
  },
  {
    name: 'DENSE_RANK',
    signature: 'DENSE_RANK() OVER (ORDER BY ..)',
    takes: [],
    gives: 'number',
    of: ({ dense }) => dense,
  },
  {
    name: 'PERCENT_RANK',
    signature: 'PERCENT_RANK() OVER (ORDER BY ..)',
    takes: [],
    gives: 'number',
    of: ({ firstPeer, rows }) => (rows.length > 1 ? firstPeer / (rows.length - 1) : 0),
  },
  {
    name: 'CUME_DIST',
    signature: 'CUME_DIST() OVER (ORDER BY ..)',
    takes: [],
    gives: 'number',
    of: ({ lastPeer, rows }) => (lastPeer + 1) / rows.length,
  },
  {
    name: 'NTILE',
    signature: 'NTILE(number) OVER (ORDER BY ..)',
    takes: ['number'],
    gives: 'number',
    of({ at, rows }, [count]) {
      const buckets = whole(count!(rows[0]!), 0);
      if (buckets < 1) return null;
      // The first ones have one row more where it does not come out even.
      const least = Math.floor(rows.length / buckets);
      const larger = rows.length % buckets;
      const inLarger = larger * (least + 1);
      return at < inLarger
        ? Math.floor(at / (least + 1)) + 1
        : larger + Math.floor((at - inLarger) / least) + 1;
    },
  },
  {
    name: 'LAG',
    signature: 'LAG(value, rows, otherwise) OVER (ORDER BY ..)',
    takes: ['any', 'number', 'any'],
    optional: 2,
    gives: 'any',
    of: shifted(-1),
  },
  {
    name: 'LEAD',
    signature: 'LEAD(value, rows, otherwise) OVER (ORDER BY ..)',
    takes: ['any', 'number', 'any'],
    optional: 2,
    gives: 'any',
    of: shifted(1),
  },
  {
    name: 'FIRST_VALUE',
    signature: 'FIRST_VALUE(value) OVER (ORDER BY ..)',
    takes: ['any'],
    gives: 'any',
    of: ({ rows, from, to }, [value]) => (from > to ? null : value!(rows[from]!)),
  },
  {
    name: 'LAST_VALUE',
    signature: 'LAST_VALUE(value) OVER (ORDER BY ..)',
    takes: ['any'],
    gives: 'any',
    of: ({ rows, from, to }, [value]) => (from > to ? null : value!(rows[to]!)),
  },
];

const byName = new Map(windowFunctions.map((each) => [each.name, each]));
export const windowFunction = (name: string) => byName.get(name);

/** An aggregate as a window function, over the frame of each row. */
export function aggregateOver(
  name: string,
  star: boolean,
  filter: ((row: number) => Value) | undefined,
): WindowFunction['of'] {
  const { tally } = aggregateFunction(name)!;
  let known: { rows: Int32Array; from: number; to: number; tally: Tally } | undefined;
  return ({ rows, from, to }, [arg]) => {
    // A frame that has only grown, as a running total's does, takes in what is new.
    if (!known || known.rows !== rows || known.from !== from || known.to > to)
      known = { rows, from, to: from - 1, tally: tally() };
    for (let at = known.to + 1; at <= to; at++) {
      const row = rows[at]!;
      if (filter && filter(row) !== true) continue;
      const value = star ? true : arg!(row);
      if (value !== null) known.tally.add(value);
    }
    known.to = Math.max(known.to, to);
    return known.tally.value();
  };
}

/** The parts of a window, compiled. */
export interface CompiledOver {
  partition: Compiled[];
  order: { by: Compiled; descending: boolean; nullsFirst: boolean }[];
  frame: Over['frame'];
}

/** The rows in their partitions, each in its order; equal ones as they came. */
function partitionsOf(over: CompiledOver, rows: Rows): Int32Array[] {
  const keys = over.partition.map((part) => part.run(rows));
  const groups = new Map<string, number[]>();
  for (let i = 0; i < rows.length; i++) {
    const key = keys.length ? JSON.stringify(keys.map((of) => of(i))) : '';
    const group = groups.get(key);
    if (group) group.push(i);
    else groups.set(key, [i]);
  }
  const order = over.order.map(({ by, descending, nullsFirst }) => {
    const read = by.run(rows);
    const values = Array.from({ length: rows.length }, (_, i) => read(i));
    return { values, descending, nullsFirst };
  });
  const compare = (a: number, b: number) => {
    for (const { values, descending, nullsFirst } of order) {
      const found = compareSorted(values[a]!, values[b]!, descending, nullsFirst);
      if (found) return found;
    }
    return 0;
  };
  return [...groups.values()].map((group) =>
    Int32Array.from(order.length ? group.sort((a, b) => compare(a, b) || a - b) : group),
  );
}

/** Whether two rows are alike in everything that a window is ordered by. */
function peersIn(over: CompiledOver, rows: Rows): (a: number, b: number) => boolean {
  const order = over.order.map(({ by }) => by.run(rows));
  return (a, b) => order.every((of) => of(a) === of(b));
}

/** The value of a window function for every row. */
export function windowValues(
  over: CompiledOver,
  rows: Rows,
  args: ((row: number) => Value)[],
  of: WindowFunction['of'],
): Value[] {
  const found: Value[] = new Array(rows.length).fill(null);
  const peers = peersIn(over, rows);
  for (const partition of partitionsOf(over, rows)) {
    const last = partition.length - 1;
    let dense = 0;
    for (let first = 0; first <= last; ) {
      let end = first;
      while (end < last && peers(partition[first]!, partition[end + 1]!)) end++;
      dense++;
      for (let at = first; at <= end; at++) {
        const { frame } = over;
        // Without a frame: up to the last peer where there is an order, everything where there is none.
        const from = frame ? Math.max(0, at + frame.start.offset) : 0;
        const to = frame ? Math.min(last, at + frame.end.offset) : over.order.length ? end : last;
        const seat = { rows: partition, at, firstPeer: first, lastPeer: end, dense, from, to };
        found[partition[at]!] = of(seat, args);
      }
      first = end + 1;
    }
  }
  return found;
}
