// Draws pictures, in a thread of its own: the server goes on answering meanwhile.
import { readFileSync } from 'node:fs';
import { workerData } from 'node:worker_threads';
import { Resvg } from '@resvg/resvg-js';
import { chartTable } from '@sorvik/core/text/chart-table';
import { readingsCsv } from '@sorvik/core/text/readings-csv';
import { readingsJson } from '@sorvik/core/text/readings-json';
import './languages';
import { embeddedFont } from './embedded-font';
import { Fonts } from './fonts';
import { outlined } from './outlined';
import { chartResult, paintChart } from './paint-chart';
import type { NoPicture, PainterData, PictureOrder } from './painter-order';
import { Theme } from './theme';

/** A picture has so many marks at most, each of them an element, and so many dots. */
const mostMarks = 20_000;
const mostDots = 40_000_000;

const fonts = await Fonts.load();
const theme = new Theme(readFileSync((workerData as PainterData).theme, 'utf8'));

/** Makes a picture; a file as bytes, or why there is none. */
export default async function paint({
  drawn,
  format,
  scale,
  ...dress
}: PictureOrder): Promise<Uint8Array | NoPicture> {
  const result = chartResult(drawn, fonts);
  const bytes = (text: string) => new TextEncoder().encode(text);
  if (format === 'csv') return bytes(readingsCsv(chartTable(result)));
  if (format === 'json') return bytes(readingsJson(chartTable(result)));
  const marks = result.readings.length;
  if (marks > mostMarks) return { why: 'marks', n: marks, most: mostMarks };
  const { svg, width, height } = paintChart(result, dress, theme);
  if (format === 'svg') {
    embeddedFont(svg);
    return bytes(svg.outerHTML);
  }
  const dots = Math.round(width * height * scale * scale);
  if (dots > mostDots) return { why: 'dots', n: dots, most: mostDots };
  outlined(svg, fonts);
  const drawing = new Resvg(svg.outerHTML, {
    fitTo: { mode: 'zoom', value: scale },
    font: { loadSystemFonts: false },
  });
  return drawing.render().asPng();
}
