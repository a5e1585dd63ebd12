import type { Board } from '@sorvik/core/board/board';
import type { Cube } from '@sorvik/core/data/cube';
import type { DatasetInfo } from '@sorvik/core/data/dataset';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import type { Facts } from '@sorvik/core/levers/settled-positions';

/** A board, and where its levers stand. */
export interface BoardStanding {
  board: Board;
  positions: Positions;
  facts: Facts;
  /** The day that is today, `YYYY-MM-DD`. */
  today: string;
}

/** What a chart of it is drawn from. */
export interface ChartData {
  /** The chart's id. */
  chart: string;
  dataset: DatasetInfo;
  cube: Cube;
}

/** A chart that cannot be drawn, and why. */
export interface NoChart {
  chart: string;
  problem: string;
}

interface Sized extends BoardStanding {
  /** Px. */
  width: number;
  height: number;
}

/** One chart, its plot as large as its room or larger where marks need more. */
export interface DrawnChart extends Sized {
  one: ChartData;
}

/** A whole board. */
export interface DrawnBoard extends Sized {
  all: readonly (ChartData | NoChart)[];
}

/** What a picture shows. */
export type Drawn = DrawnChart | DrawnBoard;

/** How a picture looks. */
export interface Dress {
  theme: 'light' | 'dark';
  caption: boolean;
}
