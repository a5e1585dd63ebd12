import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import type { Look } from '../board/look';
import type { MutedTone } from '../board/otherwise';
import type { Measured } from '../conditions/reading-figure';
import type { Cube } from '../cube/cube';
import type { Readings } from '../cube/readings';
import type { DatasetInfo } from '../dataset';
import type { Emphasis } from '../emphasis/emphasise';
import type { Strand } from '../emphasis/strands';
import type { Labels } from '../forms/labels';
import type { Scene, SceneText, TextMeasure } from '../forms/scene';
import type { AxisName, GuideMarks } from '../guides/guide-kind';
import type { Stand } from '../levers/lever-kind';
import type { Facts } from '../levers/standing';
import type { LegendEntry } from '../words/legend';

import type { WorkingsSource } from './workings';

export interface StageInput {
  board: Board;
  chart: Chart;
  dataset: DatasetInfo;
  cube: Cube;
  /** Where the levers stand, fitted to the data; the same position is the very same value. */
  stand: Stand;
  facts: Facts;
  /** The mark that the pointer or the keyboard is on; left out for none. */
  focus?: number;
  /** The series whose name in the legend is pointed at; left out for none. */
  focusSeries?: number;
  width: number;
  height: number;
  measure: TextMeasure;
  miniature: boolean;
}

/** A stretch of the plot that a span lever holds, by which it can be moved. */
export interface Brush {
  lever: string;
  /** Along the band axis, px; null while nothing is spanned. */
  stretch: { start: number; end: number } | null;
}

/** All the readings of a chart whose window shows a stretch of them on a fixed axis. */
export interface Track {
  all: Readings;
  /** How many of their places lie before those in view. */
  before: number;
}

export interface StageOutput {
  /** The readings in view. */
  readings: Readings;
  /** What they are a stretch of, while the window moves along an axis that stays; null otherwise. */
  track: Track | null;
  /** The figures that a figure on a value axis is taken from. */
  judgedOn(axis: AxisName): Measured;
  /** How places and series read. */
  labels: readonly string[];
  seriesNames: readonly string[];
  /** What a mark stands for, and its figure, as text. */
  name(index: number): string;
  value(index: number): string;
  /** The same with all its decimals. */
  exact(index: number): string;
  /** How a figure of the measure reads. */
  figureText(value: number): string;
  scene: Scene;
  /** What stands on the scene and can move without it. */
  guides: GuideMarks;
  brush: Brush | null;
  emphasis: Emphasis;
  /** How lines are lit, in whole or in part; null where marks are no points on lines. */
  strands: readonly Strand[] | null;
  figures: Labels;
  /** The names at the ends of lines. */
  names: readonly SceneText[];
  /** The look of a series where it has one of its own: its colour while it is plain. */
  seriesLook(series: number): Look;
  /** Whether plain marks show their series by colour. */
  seriesColours: boolean;
  /** How pale what is muted is. */
  tone: MutedTone;
  /** What the looks mean, in words; put together when it is asked for. */
  legend(): LegendEntry[];
  /** What stands under the title, its live words as they are now; empty where there is nothing. */
  subtitle(): string;
  /** What is lit, in words; put together when it is asked for. */
  caption(): string;
  /** What the workings are made from: every step from readings to lit marks. */
  forWorkings(): WorkingsSource;
  /** What a formula of the chart's says besides of a mark; nothing where there is none. */
  pointed(index: number): string;
  /** Why a mark is lit, muted or plain, with numbers. */
  why(index: number): string;
}

/** How often each stage really ran. */
export interface StageRuns {
  readings: number;
  view: number;
  scene: number;
  guides: number;
  emphasis: number;
}
