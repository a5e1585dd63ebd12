import type { FormulaEngine } from '@sorvik/formula/engine';
import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import type { Look } from '../board/look';
import type { MutedTone } from '../board/otherwise';
import type { ConditionContext } from '../conditions/condition-kind';
import type { Measured } from '../conditions/reading-figure';
import type { Cube } from '../data/cube';
import type { DatasetInfo } from '../data/dataset';
import type { Readings } from '../data/readings';
import type { RowFilter } from '../data/row-filter';
import type { Scene, SceneText, TextMeasure } from '../forms/scene';
import type { AxisName, GuideMarks } from '../guides/guide-kind';
import type { PositionLookup } from '../levers/lever-kind';
import type { Facts } from '../levers/settled-positions';
import type { CategoryName } from './category-names';
import type { Compared } from './compared-with';
import type { Emphasis } from './emphasise';
import type { Labels } from './labels';
import type { LineState } from './line-states';
import type { MeasureFormulas } from './measure-formula';

export interface PipelineInput {
  board: Board;
  chart: Chart;
  dataset: DatasetInfo;
  cube: Cube;
  /** Where the levers stand, fitted to the data; the same position is the very same value. */
  positionOf: PositionLookup;
  facts: Facts;
  /** The day that is today, `YYYY-MM-DD`. */
  today: string;
  /** What reads formulas; null until it is there. */
  engine: FormulaEngine | null;
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

/** What a chart comes to: values that stay as they are, whatever is run after them. */
export interface ChartResult {
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
  lineStates: readonly LineState[] | null;
  figures: Labels;
  /** The names below an upright plot, where they go by what is lit; null where they are the scene's. */
  categories: readonly CategoryName[] | null;
  /** The names at the ends of lines. */
  names: readonly SceneText[];
  /** The look of a series where it has one of its own: its colour while it is plain. */
  seriesLook(series: number): Look;
  /** Whether plain marks show their series by colour. */
  seriesColours: boolean;
  /** How pale what is muted is. */
  tone: MutedTone;
  /** The chart as it is shown: while its marks are compared, a chart of comparisons. */
  chart: Chart;
  /** What went in. */
  input: PipelineInput;
  /** What conditions judged: the readings in view, one for all marks of several measures. */
  judged: Readings;
  /** What keeps rows. */
  filters: readonly RowFilter[];
  /** What formulas of its measures take besides the rows. */
  formulas: MeasureFormulas | undefined;
  compared: Compared | null;
  notCompared: Compared | null;
  /** What conditions saw. */
  context: ConditionContext;
  /** What a formula of the chart's says besides of a mark; nothing where there is none. */
  tooltipText(index: number): string;
}

/** How often each stage really ran. */
export interface StageRuns {
  readings: number;
  view: number;
  scene: number;
  guides: number;
  emphasis: number;
}
