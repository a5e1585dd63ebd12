/** Dots sorted into square cells, so that the ones near a point are found without looking at all. */
export interface DotGrid {
  cell: number;
  columns: number;
  rows: number;
  /** The dots of cell `c` are `order[starts[c]]` to before `order[starts[c + 1]]`. */
  starts: Int32Array;
  order: Int32Array;
}

/** Sorts dots that have a place into cells of `cell` px. */
export function dotGrid(x: Float64Array, y: Float64Array, width: number, height: number, cell = 24): DotGrid {
  const columns = Math.max(1, Math.ceil(width / cell));
  const rows = Math.max(1, Math.ceil(height / cell));
  const within = (at: number, count: number) => Math.max(0, Math.min(count - 1, Math.floor(at / cell)));
  const cellOf = new Int32Array(x.length).fill(-1);
  const starts = new Int32Array(columns * rows + 1);
  for (let i = 0; i < x.length; i++) {
    if (Number.isNaN(x[i]! + y[i]!)) continue;
    cellOf[i] = within(y[i]!, rows) * columns + within(x[i]!, columns);
    starts[cellOf[i]! + 1]!++;
  }
  for (let c = 1; c < starts.length; c++) starts[c]! += starts[c - 1]!;
  const next = starts.slice();
  const order = new Int32Array(starts.at(-1)!);
  for (let i = 0; i < x.length; i++) if (cellOf[i]! >= 0) order[next[cellOf[i]!]!++] = i;
  return { cell, columns, rows, starts, order };
}

/** The dot nearest to a point, not farther than `within` px; of several that lie on each other the last. -1 for none. */
export function nearestDot(
  { cell, columns, rows, starts, order }: DotGrid,
  xs: Float64Array,
  ys: Float64Array,
  x: number,
  y: number,
  within: number,
): number {
  const clamp = (at: number, count: number) => Math.max(0, Math.min(count - 1, Math.floor(at / cell)));
  let best = -1;
  let least = within;
  for (let row = clamp(y - within, rows); row <= clamp(y + within, rows); row++) {
    const from = row * columns;
    const end = starts[from + clamp(x + within, columns) + 1]!;
    for (let o = starts[from + clamp(x - within, columns)]!; o < end; o++) {
      const i = order[o]!;
      const away = Math.hypot(xs[i]! - x, ys[i]! - y);
      if (away > least || (away === least && i < best)) continue;
      least = away;
      best = i;
    }
  }
  return best;
}
