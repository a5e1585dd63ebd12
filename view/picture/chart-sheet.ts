import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { chartCaption, chartSubtitle } from '@sorvik/core/text/chart-words';
import { make } from '../svg';
import { SvgPainter } from '../svg-painter';
import { legendRows } from './legend-rows';
import { wrapText } from './wrap-text';

/** The room around what a picture shows, px. */
export const sheetMargin = 16;
/** A picture is at least so wide inside its margin, px: words need room. */
const leastRoom = 360;

/** What a picture says besides its plot. */
export interface SheetWords {
  title: string;
  /** Whether what is lit is told below the plot. */
  caption: boolean;
}

/**
 * Draws a chart with its words into an element of a document, as the theme has it: its title, what its looks mean, the
 * plot as it is, and its caption. Returns its size, px.
 */
export function paintSheet(
  sheet: SVGSVGElement,
  output: ChartResult,
  { title, caption }: SheetWords,
): { width: number; height: number } {
  const { scene, tone } = output;
  const { measure } = output.input;
  const room = Math.ceil(Math.max(leastRoom, scene.width));
  const width = room + 2 * sheetMargin;
  const ground = make('rect', sheet);
  let y = sheetMargin;
  const write = (text: string, size: number, look: string, extra = '') => {
    for (const line of wrapText(text, room, size, measure)) {
      const element = make('text', sheet, `sv-text ${look}`);
      element.setAttribute('x', String(sheetMargin));
      element.setAttribute('y', String(y + size * 0.65));
      element.setAttribute('style', `font-size:${size}px;${extra}`);
      element.textContent = line;
      y += size * 1.35;
    }
    y += 4;
  };
  write(title, 17, '', 'font-weight:650');
  const subtitle = chartSubtitle(output);
  if (subtitle) write(subtitle, 13, 'sv-tick');
  y += legendRows(sheet, output, sheetMargin, y, room);
  const plot = make('svg', sheet);
  new SvgPainter(plot, { pickable: false, id: 'plot', carried: true }).paint(output);
  plot.setAttribute('x', String(sheetMargin));
  plot.setAttribute('y', String(y));
  y += scene.height + 10;
  if (caption) write(chartCaption(output), 13, 'sv-tick');
  const height = Math.ceil(y + sheetMargin / 2);
  for (const [name, value] of Object.entries({ width, height })) ground.setAttribute(name, String(value));
  ground.setAttribute('style', 'fill:var(--bs-body-bg)');
  sheet.setAttribute('data-tone', tone);
  return { width, height };
}
