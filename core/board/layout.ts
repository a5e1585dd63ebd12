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
  @Min(1)
  @Max(24)
  height!: number;
}

/** The smallest and the usual size of a chart, cells. */
export const leastSize = { width: 3, height: 3 } as const;
const usual = { width: 6, height: 4 } as const;

interface Size {
  width: number;
  height: number;
}

/** Something that lies on the grid, with the size it has at least, and the one it has without a place of its own. */
export interface Laid {
  place?: Place;
  least?: Size;
  usual?: Size;
}

const meet = (a: Place, b: Place): boolean =>
  a.column < b.column + b.width &&
  b.column < a.column + a.width &&
  a.row < b.row + b.height &&
  b.row < a.row + a.height;

/** A place within the grid, not smaller than what lies there can be. */
export function heldPlace({ column, row, width, height }: Place, least: Size = leastSize): Place {
  const wide = Math.max(least.width, Math.min(columns, Math.round(width)));
  return {
    column: Math.max(0, Math.min(columns - wide, Math.round(column))),
    row: Math.max(0, Math.min(mostRows, Math.round(row))),
    width: wide,
    height: Math.max(least.height, Math.min(24, Math.round(height))),
  };
}

/** The highest free place of a size at a column, or at any when `column` is left out. */
function firstFree(taken: readonly Place[], size: Size): Place {
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
 * Where what is on a board lies. What has no place of its own follows the others; a single one has the board to
 * itself.
 */
export function placesOf(items: readonly Laid[]): Place[] {
  if (items.length === 1 && !items[0]!.place)
    return [{ column: 0, row: 0, width: columns, height: usual.height }];
  const own = settled(items.flatMap(({ place, least }) => (place ? [heldPlace(place, least)] : [])));
  const taken = [...own];
  return items.map(({ place, usual: size = usual }) => {
    if (place) return own.shift()!;
    const free = firstFree(taken, size);
    taken.push(free);
    return free;
  });
}

/** The places after one has been moved or resized: the others make room downwards, and all close up. */
export function movedTo(places: readonly Place[], index: number, to: Place, least?: Size): Place[] {
  const wanted = places.map((place, i) => (i === index ? heldPlace(to, least) : place));
  return settled(settled(wanted, [index]));
}

/** Which of some places are made alike: in width and height, or in where they begin. */
export const alignments = ['same size', 'one column', 'one row'] as const;
export type Alignment = (typeof alignments)[number];

/** The places after those in `which` have been made like the first of them. */
export function alignedTo(
  places: readonly Place[],
  which: readonly number[],
  alignment: Alignment,
  least: (index: number) => Size | undefined = () => undefined,
): Place[] {
  const [first] = which;
  if (first === undefined) return [...places];
  const { column, row, width, height } = places[first]!;
  let next = row;
  const wanted = places.map((place, i) => {
    if (!which.includes(i)) return place;
    if (alignment === 'same size') return heldPlace({ ...place, width, height }, least(i));
    if (alignment === 'one column') {
      const at = { ...place, column, row: next };
      next += place.height;
      return heldPlace(at, least(i));
    }
    return place;
  });
  if (alignment === 'one row') {
    // As many as fit beside each other share the width of the board evenly.
    const each = Math.max(leastSize.width, Math.floor(columns / which.length));
    const across = Math.floor(columns / each);
    which.forEach((i, n) => {
      wanted[i] = heldPlace(
        { column: (n % across) * each, row: row + Math.floor(n / across) * height, width: each, height },
        least(i),
      );
    });
  }
  return settled(settled(wanted, which));
}

/** What lies on the grid in the order in which it is read: from the top, and in a row from the left. */
export const readingOrder = (places: readonly Place[]): number[] =>
  places
    .map((_, i) => i)
    .sort((a, b) => places[a]!.row - places[b]!.row || places[a]!.column - places[b]!.column);
