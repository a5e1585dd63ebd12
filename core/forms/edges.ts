import type { SceneText, TextMeasure } from './scene';

/** The edges of a box on the plot, px. */
export interface Edges {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** The edges of a text in bold, of a size and a line's height in px, with `aside` px of room at either side. */
export function textEdges(
  { x, y, text, anchor }: SceneText,
  size: number,
  height: number,
  measure: TextMeasure,
  aside = 0,
): Edges {
  const width = measure(text, size, true);
  const left = anchor === 'end' ? x - width : anchor === 'middle' ? x - width / 2 : x;
  return { left: left - aside, right: left + width + aside, top: y - height / 2, bottom: y + height / 2 };
}

/** Whether two boxes share more than an edge. */
export const overlap = (a: Edges, b: Edges): boolean =>
  a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;
