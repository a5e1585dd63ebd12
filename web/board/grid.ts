import type { Board } from '@sorvik/core/board/board';
import { type BoardItem, boardPlaces, itemsOf } from '@sorvik/core/board/items';
import { type Place, readingOrder } from '@sorvik/core/board/layout';
import type { CSSProperties } from 'react';

/** Where something lies, as the grid of the page takes it. */
export const gridStyle = ({ column, row, width, height }: Place): CSSProperties => ({
  gridColumn: `${column + 1} / span ${width}`,
  gridRow: `${row + 1} / span ${height}`,
});

/** What lies on a board in the order in which it is read, each with its place. */
export function laidOut(
  board: Board,
  places: readonly Place[] = boardPlaces(board),
): { item: BoardItem; place: Place; index: number }[] {
  const items = itemsOf(board);
  return readingOrder(places).map((i) => ({ item: items[i]!, place: places[i]!, index: i }));
}
