import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { chartCaption, chartSubtitle } from '@sorvik/core/text/chart-words';
import { make, styled } from '../svg';
import { SvgPainter } from '../svg-painter';
import { legendRows } from './legend-rows';
import { linesHeight, writeLines } from './write-lines';

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

/** Where a chart is drawn on a sheet, px; `id` is its own on the sheet. */
export interface SheetPart {
  x: number;
  y: number;
  room: number;
  id: string;
  /** The chart in a size that leaves so many px to its words; left out where it is drawn as it is. */
  fit?(said: number): ChartResult;
}

/**
 * Draws a chart with its words: its title, what its looks mean, the plot as it is, and its caption. A plot that is wider
 * than its room is made smaller. Returns the height of it all, px.
 */
export function paintChart(
  sheet: SVGElement,
  output: ChartResult,
  { title, caption }: SheetWords,
  { x, y: top, room, id, fit }: SheetPart,
): number {
  const { measure } = output.input;
  let y = top;
  const write = (text: string, size: number, look: string, bold = false) => {
    y += writeLines(sheet, text, { x, y, room, size, look, bold, measure }) + 4;
  };
  write(title, 17, '', true);
  const subtitle = chartSubtitle(output);
  if (subtitle) write(subtitle, 13, 'sv-tick');
  y += legendRows(sheet, output, x, y, room);
  const told = caption ? chartCaption(output) : '';
  const toldHeight = told ? linesHeight(told, room, 13, measure) + 4 : 0;
  const drawn = fit?.(y - top + toldHeight + 10) ?? output;
  const { scene } = drawn;
  const plot = make('svg', sheet);
  new SvgPainter(plot, { pickable: false, id, carried: true }).paint(drawn);
  const scale = Math.min(1, room / scene.width);
  plot.setAttribute('x', String(x));
  plot.setAttribute('y', String(y));
  plot.setAttribute('width', String(scene.width * scale));
  plot.setAttribute('height', String(scene.height * scale));
  plot.setAttribute('data-tone', drawn.tone);
  y += scene.height * scale + 10;
  if (told) write(told, 13, 'sv-tick');
  return y - top;
}

/** Draws the ground of a sheet: before all else on it. Returns what gives it its size, px. */
export function paintGround(sheet: SVGSVGElement): (width: number, height: number) => void {
  const ground = make('rect', sheet);
  styled(ground, 'fill:var(--bs-body-bg)');
  return (width, height) => {
    for (const [name, value] of Object.entries({ width, height })) ground.setAttribute(name, String(value));
  };
}

/** Draws a chart with its words into an element of a document, as the theme has it. Returns its size, px. */
export function paintSheet(
  sheet: SVGSVGElement,
  output: ChartResult,
  words: SheetWords,
): { width: number; height: number } {
  const room = Math.ceil(Math.max(leastRoom, output.scene.width));
  const width = room + 2 * sheetMargin;
  const size = paintGround(sheet);
  sheet.setAttribute('data-tone', output.tone);
  const part = { x: sheetMargin, y: sheetMargin, room, id: 'plot' };
  const height = Math.ceil(1.5 * sheetMargin + paintChart(sheet, output, words, part));
  size(width, height);
  return { width, height };
}
