import type { Kind } from '@sorvik/core/data/kinds';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import type { Sight } from '../sight';

export interface LayerOptions {
  /** Which part of the drawing is in sight. */
  sight: Sight;
  /** Marks can be picked: the drawing is a listbox and each mark an option. */
  pickable: boolean;
  /** Unique in the page; marks are named after it. */
  id: string;
  /** The drawing is carried elsewhere: all of it is painted at once, and none of it on a canvas. */
  carried?: true;
}

/** Paints the marks of one shape, keeps their elements, and writes only what has changed. */
export interface MarkLayer {
  /** Everything, after geometry or readings have changed; `moving` where it is one of the pictures of a motion. */
  paint(output: ChartResult, moving?: boolean): void;
  /** What differs in states, looks and figures from the last output, on the same geometry. */
  restate(output: ChartResult, last: ChartResult): void;
  /** Makes a mark the one in hand, -1 for none, and returns the id of its element; `shown` for the keyboard. */
  focus(index: number, shown: boolean): string;
  /** The element that a mark's sheet stands beside, once it is painted. */
  markAt(index: number): Element | undefined;
  /** Ends what is still to follow. */
  stop(): void;
}

export interface LayerKind extends Kind {
  /** What lies beyond an axis that the author has fixed is cut off: marks are joined, and reach over its ends. */
  clips?: true;
  make(layer: SVGGElement, options: LayerOptions): MarkLayer;
}
