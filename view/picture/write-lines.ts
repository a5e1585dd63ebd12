import type { TextMeasure } from '@sorvik/core/forms/scene';
import { make, styled } from '../svg';
import { wrapText } from './wrap-text';

/** How a text is written on a sheet: from where, px, in which size, and by which class of the theme. */
export interface LinesStyle {
  x: number;
  y: number;
  /** The room for a line, px. */
  room: number;
  size: number;
  look?: string;
  bold?: boolean;
  measure: TextMeasure;
}

/** Px from one line of a text to the next, for each px of its size. */
const leading = 1.35;

/** The height of a text in lines that fit their room, px. */
export const linesHeight = (text: string, room: number, size: number, measure: TextMeasure): number =>
  wrapText(text, room, size, measure).length * size * leading;

/** Writes a text in lines that fit their room. Returns their height, px. */
export function writeLines(
  sheet: SVGElement,
  text: string,
  { x, y, room, size, look = '', bold = false, measure }: LinesStyle,
): number {
  const lines = wrapText(text, room, size, measure);
  lines.forEach((line, i) => {
    const element = make('text', sheet, `sv-text ${look}`);
    element.setAttribute('x', String(x));
    element.setAttribute('y', String(y + i * size * leading + size * 0.65));
    styled(element, `font-size:${size}px;${bold ? 'font-weight:650' : ''}`);
    element.textContent = line;
  });
  return lines.length * size * leading;
}
