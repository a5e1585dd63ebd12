import type { Chart } from '@sorvik/core/board/chart';
import { type Place, placesOf, readingOrder } from '@sorvik/core/board/layout';
import type { CSSProperties } from 'react';

/** Where a chart lies, as the grid of the page takes it. */
export const gridStyle = ({ column, row, width, height }: Place): CSSProperties => ({
  gridColumn: `${column + 1} / span ${width}`,
  gridRow: `${row + 1} / span ${height}`,
});

/** The charts of a board in the order in which they are read, each with its place. */
export function laidOut(charts: readonly Chart[], places: readonly Place[] = placesOf(charts)) {
  return readingOrder(places).map((i) => ({ chart: charts[i]!, place: places[i]!, index: i }));
}
