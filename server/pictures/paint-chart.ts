import type { Board } from '@sorvik/core/board/board';
import { enabledChart } from '@sorvik/core/board/enabled';
import type { Cube } from '@sorvik/core/data/cube';
import type { DatasetInfo } from '@sorvik/core/data/dataset';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { type Facts, settledPositions } from '@sorvik/core/levers/settled-positions';
import { chartStages } from '@sorvik/core/pipeline/chart-stages';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { vocabularyOf } from '@sorvik/core/words/vocabulary';
import { fullEngine } from '@sorvik/formula/full-engine';
import { fontFamily } from '@sorvik/view/font-family';
import { paintSheet } from '@sorvik/view/picture/chart-sheet';
import { ownStyles } from '@sorvik/view/picture/own-styles';
import { DOMParser } from 'linkedom';
import type { Fonts } from './fonts';
import type { Theme } from './theme';

/** A chart of a board, with all that it is drawn from. */
export interface ChartOrder {
  board: Board;
  /** The chart's id. */
  chart: string;
  dataset: DatasetInfo;
  cube: Cube;
  positions: Positions;
  facts: Facts;
  /** The day that is today, `YYYY-MM-DD`. */
  today: string;
  /** The room for the plot, px: a plot may be larger where its marks need more. */
  width: number;
  height: number;
}

/** How a picture looks. */
export interface Dress {
  theme: 'light' | 'dark';
  caption: boolean;
}

/** A picture as it is written: an element that needs no theme, and its size, px. */
export interface Painted {
  svg: SVGSVGElement;
  width: number;
  height: number;
}

const ns = 'http://www.w3.org/2000/svg';

/** The way of a chart from what it is drawn from to where its marks are and how they are lit: as a page goes it. */
export function chartResult(order: ChartOrder, fonts: Fonts): ChartResult {
  const { board, dataset, cube, facts, positions, today, width, height } = order;
  const chart = enabledChart(board.charts.find(({ id }) => id === order.chart)!);
  return chartStages().run({
    ...{ board, chart, dataset, cube, facts, today, width, height },
    positionOf: settledPositions(board.levers, positions, facts),
    engine: fullEngine,
    measure: fonts.measure,
    miniature: false,
    focus: -1,
    focusSeries: -1,
  });
}

/** What a chart is called. */
export const titleOf = ({ input: { board, chart, dataset, engine } }: ChartResult): string =>
  chartTitle(chart, vocabularyOf(board, dataset, engine));

/** Draws a chart with its words, in the colours of a theme. */
export function paintChart(result: ChartResult, { theme, caption }: Dress, sheetStyle: Theme): Painted {
  // Read as XML, it is written as XML again.
  const document = new DOMParser().parseFromString('<html/>', 'text/xml');
  const root = document.documentElement as unknown as Element;
  const svg = (document as unknown as Document).createElementNS(ns, 'svg');
  root.setAttribute('data-bs-theme', theme);
  root.append(svg);
  const title = titleOf(result);
  const { width, height } = paintSheet(svg, result, { title, caption });
  for (const _step of ownStyles(svg, (element) => (property) => sheetStyle.styleOf(element, property)));
  for (const [name, value] of Object.entries({
    xmlns: ns,
    width,
    height,
    viewBox: `0 0 ${width} ${height}`,
    'font-family': fontFamily,
  }))
    svg.setAttribute(name, String(value));
  svg.removeAttribute('data-tone');
  return { svg, width, height };
}
