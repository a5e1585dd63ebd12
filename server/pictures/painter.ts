// Draws pictures, in a thread of its own: the server goes on answering meanwhile.
import { readFileSync } from 'node:fs';
import { workerData } from 'node:worker_threads';
import { Resvg } from '@resvg/resvg-js';
import { localeOf } from '@sorvik/core/messages/locale';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { chartTable } from '@sorvik/core/text/chart-table';
import { chartCaption } from '@sorvik/core/text/chart-words';
import { readingsCsv } from '@sorvik/core/text/readings-csv';
import { readingsJson } from '@sorvik/core/text/readings-json';
import './languages';
import { paintBoard } from '@sorvik/view/picture/board-sheet';
import { paintSheet } from '@sorvik/view/picture/chart-sheet';
import { boardSheet } from './board-sheet';
import { sizedChart, titleOf } from './chart-result';
import type { DrawnBoard, DrawnChart, Dress } from './drawn';
import { embeddedFont } from './embedded-font';
import { Fonts } from './fonts';
import { outlined } from './outlined';
import type { NoPicture, PainterData, PictureOrder } from './painter-order';
import { type Painted, painted } from './painting';
import { pdfOf } from './pdf';
import { Theme } from './theme';

/** A picture has so many marks at most, each of them an element, and so many dots. */
const mostMarks = 20_000;
const mostDots = 40_000_000;

const fonts = await Fonts.load();
const style = new Theme(readFileSync((workerData as PainterData).theme, 'utf8'));
const bytes = (text: string) => new TextEncoder().encode(text);

/** A picture, and what it shows in words; or why there is none. */
interface Pictured {
  painted: Painted;
  title: string;
  says: readonly string[];
}

const tooManyMarks = (results: readonly ChartResult[]): NoPicture | null => {
  const n = results.reduce((sum, { readings }) => sum + readings.length, 0);
  return n > mostMarks ? { why: 'marks', n, most: mostMarks } : null;
};

function chartPicture(drawn: DrawnChart, dress: Dress): Pictured | NoPicture {
  const result = sizedChart(drawn, drawn.one, fonts)(drawn);
  const title = titleOf(drawn, drawn.one);
  return (
    tooManyMarks([result]) ?? {
      painted: painted(dress, style, (svg) => ({
        ...paintSheet(svg, result, { title, caption: dress.caption }),
        boxes: [],
      })),
      title,
      says: [chartCaption(result)],
    }
  );
}

function boardPicture(drawn: DrawnBoard, dress: Dress): Pictured | NoPicture {
  const sheet = boardSheet(drawn, dress.caption, fonts);
  const charts = sheet.cells.flatMap((cell) => ('chart' in cell ? [{ ...cell }] : []));
  const results = charts.map(({ chart }) => chart({ width: 400, height: 300 }));
  return (
    tooManyMarks(results) ?? {
      painted: painted(dress, style, (svg) => paintBoard(svg, sheet)),
      title: sheet.title,
      says: charts.map(({ words: { title } }, i) => `${title}: ${chartCaption(results[i]!)}`),
    }
  );
}

/** Makes a picture; a file as bytes, or why there is none. */
export default async function paint({
  drawn,
  format,
  scale,
  paper,
  orientation,
  ...dress
}: PictureOrder): Promise<Uint8Array | NoPicture> {
  if ('one' in drawn && (format === 'csv' || format === 'json')) {
    const table = chartTable(sizedChart(drawn, drawn.one, fonts)(drawn));
    return bytes(format === 'csv' ? readingsCsv(table) : readingsJson(table));
  }
  const picture = 'one' in drawn ? chartPicture(drawn, dress) : boardPicture(drawn, dress);
  if ('why' in picture) return picture;
  const { svg, width, height } = picture.painted;
  if (format === 'svg') {
    embeddedFont(svg);
    return bytes(svg.outerHTML);
  }
  outlined(svg, fonts);
  if (format === 'pdf')
    return pdfOf(
      picture.painted,
      { paper, orientation },
      { title: picture.title, lang: localeOf(drawn.board.locale).tag, alt: picture.says.join(' ') },
    );
  const dots = Math.round(width * height * scale * scale);
  if (dots > mostDots) return { why: 'dots', n: dots, most: mostDots };
  // A plot is within its room: nothing has to be cut there, which takes a layer as large as the picture.
  for (const plot of svg.querySelectorAll('svg')) plot.setAttribute('overflow', 'visible');
  const drawing = new Resvg(svg.outerHTML, {
    fitTo: { mode: 'zoom', value: scale },
    font: { loadSystemFonts: false },
  });
  return drawing.render().asPng();
}
