import type { Category } from '../board/category';
import type { BoardEvent } from '../board/event';
import type { measureAxes } from '../board/further-measure';
import type { LeverAbility } from '../board/lever-ability';
import type { LookColour } from '../board/look';
import type { MarkKeys } from '../conditions/condition-kind';
import type { Kind } from '../data/kinds';
import type { Readings } from '../data/readings';
import type { KeyValue } from '../data/values';
import type { BandAxis, SceneLine, SceneText, TextMeasure, ValueAxis } from '../forms/scene';
import type { LeverContext } from '../levers/lever-kind';
import type { Part } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';

export type AxisName = (typeof measureAxes)[number];

/** A place on the plot by which a lever's figure can be moved: its line, and what it holds. */
export interface GuideHandle {
  lever: string;
  part: string;
  line: Pick<SceneLine, 'x1' | 'y1' | 'x2' | 'y2'>;
  /** The figure on the value axis. */
  at: number;
  axis: AxisName;
}

/** A tinted part of the ground behind the marks, px; in the tone of the grid where it has no colour. */
export interface SceneArea {
  x: number;
  y: number;
  width: number;
  height: number;
  colour?: LookColour;
}

/** What a guide adds to a scene. */
export interface GuideMarks {
  areas: SceneArea[];
  lines: SceneLine[];
  texts: SceneText[];
  handles: GuideHandle[];
}
export const nothingDrawn: GuideMarks = { areas: [], lines: [], texts: [], handles: [] };

/** The plot that guides are placed on. */
export interface Plot {
  values: ValueAxis;
  band: BandAxis;
  /** The places along the band axis, and what they stand for. */
  places: readonly KeyValue[];
  by: Category;
  events: readonly BoardEvent[];
  measure: TextMeasure;
  /** How much of the plot is in sight before it is scrolled sideways, px. */
  sight: number;
  /** How a figure on the value axis reads. */
  figureText(value: number): string;
  /** A name that stands for several: "Storm and 3 more". */
  andMore(name: string, more: number): string;
}

export interface GuideContext extends LeverContext {
  readings: Readings;
}

/** One kind of guide. */
export interface GuideKind<S> extends Kind {
  Spec: new () => S & object;
  /** The levers that place it. */
  levers(spec: S): string[];
  needs(spec: S): { lever: string; ability: LeverAbility }[];
  /** The figures it stands at now, on the value axis: the axis is made long enough to show them. NaN where there is none. */
  figures(spec: S, context: GuideContext): number[];
  /** The value axis that its figures are on; the first where it is left out. */
  axis?(spec: S): AxisName;
  /** Whether the axis is made long enough to show its figures; left out, it is. */
  grows?(spec: S): boolean;
  /** It draws the events of the board. */
  readsEvents?: true;
  /** How many rows of names it wants above the plot. */
  rows?: number;
  /** Places it, at those figures, on a plot. */
  place(spec: S, figures: readonly number[], plot: Plot): GuideMarks;
  /** Why it cannot be drawn on a chart, in words; null or left out when it can. */
  unfit?(keys: MarkKeys, words: Vocabulary): string | null;
  /** Its sentence, without the full stop: the axis it stands on may follow, and when it is drawn. */
  parts(spec: S, words: Vocabulary): Part[];
  /** The guide without a lever, which is to go. */
  without(spec: S, lever: string, context: LeverContext): S;
}
