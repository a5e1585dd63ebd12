import type { Place } from '@sorvik/core/board/layout';
import type { CSSProperties } from 'react';

/** Where something lies, as the grid of the page takes it. */
export const gridStyle = ({ column, row, width, height }: Place): CSSProperties => ({
  gridColumn: `${column + 1} / span ${width}`,
  gridRow: `${row + 1} / span ${height}`,
});
