import { IsInt, Max, Min } from 'class-validator';

/** Cells across a board. */
export const columns = 12;
const mostRows = 200;

/** Where a chart lies on the grid of its board, in cells from the top left. */
export class Place {
  @IsInt()
  @Min(0)
  @Max(columns - 1)
  column!: number;

  @IsInt()
  @Min(0)
  @Max(mostRows)
  row!: number;

  @IsInt()
  @Min(2)
  @Max(columns)
  width!: number;

  @IsInt()
  @Min(2)
  @Max(24)
  height!: number;
}

/** The smallest and the usual size of a chart, cells. */
export const leastSize = { width: 3, height: 3 } as const;
const usual = { width: 6, height: 4 } as const;

const meet = (a: Place, b: Place): boolean =>
  a.column < b.column + b.width &&
  b.column < a.column + a.width &&
  a.row < b.row + b.height &&
  b.row < a.row + a.height;

/** A place within the grid, not smaller than a chart can be. */
export function heldPlace({ column, row, width, height }: Place): Place {
  const wide = Math.max(leastSize.width, Math.min(columns, Math.round(width)));
  return {
    column: Math.max(0, Math.min(columns - wide, Math.round(column))),
    row: Math.max(0, Math.min(mostRows, Math.round(row))),
    width: wide,
    height: Math.max(leastSize.height, Math.min(24, Math.round(height))),
  };
}

/** The highest free place of a size at a column, or at any when `column` is left out. */
function firstFree(taken: readonly Place[], size: { width: number; height: number }): Place {
  for (let row = 0; ; row++)
    for (let column = 0; column + size.width <= columns; column++) {
      const place = { column, row, ...size };
      if (!taken.some((other) => meet(place, other))) return place;
    }
}

/** Charts as high as they can go, those above first; none over another. Those in `fixed` stay where they are. */
function settled(places: readonly Place[], fixed: readonly number[] = []): Place[] {
  const order = places
    .map((_, i) => i)
    .filter((i) => !fixed.includes(i))
    .sort((a, b) => places[a]!.row - places[b]!.row || places[a]!.column - places[b]!.column || a - b);
  const result: Place[] = [];
  for (const i of fixed) result[i] = places[i]!;
  const done = fixed.map((i) => places[i]!);
  for (const i of order) {
    const free = (row: number) => !done.some((other) => meet({ ...places[i]!, row }, other));
    let { row } = places[i]!;
    while (!free(row)) row++;
    while (row > 0 && free(row - 1)) row--;
    result[i] = { ...places[i]!, row };
    done.push(result[i]);
  }
  return result;
}

/**
 * Where the charts of a board lie. Those without a place of their own follow the others; a single one has the board to
 * itself.
 */
export function placesOf(charts: readonly { place?: Place }[]): Place[] {
  if (charts.length === 1 && !charts[0]!.place)
    return [{ column: 0, row: 0, width: columns, height: usual.height }];
  const own = settled(charts.flatMap(({ place }) => (place ? [heldPlace(place)] : [])));
  const taken = [...own];
  return charts.map(({ place }) => {
    if (place) return own.shift()!;
    const free = firstFree(taken, usual);
    taken.push(free);
    return free;
  });
}

/** The places after one chart has been moved or resized: the others make room downwards, and all close up. */
export function movedTo(places: readonly Place[], index: number, to: Place): Place[] {
  const wanted = places.map((place, i) => (i === index ? heldPlace(to) : place));
  return settled(settled(wanted, [index]));
}

/** The charts in the order in which they are read: from the top, and in a row from the left. */
export const readingOrder = (places: readonly Place[]): number[] =>
  places
    .map((_, i) => i)
    .sort((a, b) => places[a]!.row - places[b]!.row || places[a]!.column - places[b]!.column);
