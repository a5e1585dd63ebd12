import type { MarkerShape } from '@sorvik/core/board/look';
import { type SymbolType, symbolCircle, symbolDiamond, symbolSquare, symbolTriangle } from 'd3-shape';

/** The shapes of markers, as d3 draws them. */
export const symbols: Record<MarkerShape, SymbolType> = {
  disc: symbolCircle,
  ring: symbolCircle,
  square: symbolSquare,
  diamond: symbolDiamond,
  triangle: symbolTriangle,
};

/** Px across of a dot: a lit one is larger, unless its look has a size of its own. */
export const dotSize = (size: number, lit: boolean, own: number | undefined): number =>
  lit ? (own ?? Math.max(size * 1.3, size + 2)) : size;
