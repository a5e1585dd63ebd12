import type { Look } from '@sorvik/core/board/look';
import { groundOf, type Polylines } from '@sorvik/core/pipeline/piece-points';

/** How wide a lit line is stroked on a canvas, px; the theme has the same for elements. */
const strokeWidths = { lit: 2.75, fine: 1.5, strong: 3.5, heavy: 5 } as const;

export const litWidth = (look: Look | undefined): number => strokeWidths[look?.weight ?? 'lit'];

/** Draws lines as one path. */
export function strokeLines(
  context: CanvasRenderingContext2D,
  lines: Polylines,
  colour: string,
  width: number,
  dashed = false,
): void {
  context.beginPath();
  for (const line of lines) {
    context.moveTo(line[0]!, line[1]!);
    for (let i = 2; i < line.length; i += 2) context.lineTo(line[i]!, line[i + 1]!);
  }
  context.lineWidth = width;
  context.strokeStyle = colour;
  // Round joins of lines with thousands of points cost more than all else, and are not seen.
  context.lineJoin = 'bevel';
  context.setLineDash(dashed ? [9, 4] : []);
  context.stroke();
}

/**
 * Draws lines as fine as the screen has them: a stroke of one dot takes a tenth of the time of a wider one, and where
 * there are ten thousands of points no more of it would be seen. Where the screen has more dots than px, side by side.
 */
export function hairLines(
  context: CanvasRenderingContext2D,
  lines: Polylines,
  colour: string,
  sharp: number,
): void {
  for (let dot = 0; dot < Math.round(sharp); dot++) {
    const aside = dot / sharp;
    context.translate(0, aside);
    strokeLines(context, lines, colour, 1 / sharp);
    context.translate(0, -aside);
  }
}

/** Fills the ground between lines and their bases. */
export function fillGround(
  context: CanvasRenderingContext2D,
  tops: Polylines,
  bases: Polylines,
  colour: string,
  opacity: number,
): void {
  context.beginPath();
  tops.forEach((top, run) => {
    const outline = groundOf(top, bases[run]!);
    context.moveTo(outline[0]!, outline[1]!);
    for (let i = 2; i < outline.length; i += 2) context.lineTo(outline[i]!, outline[i + 1]!);
    context.closePath();
  });
  context.globalAlpha = opacity;
  context.fillStyle = colour;
  context.fill();
  context.globalAlpha = 1;
}
