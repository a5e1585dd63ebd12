import type { ScaleName } from '../board/axis';
import type { LookColour } from '../board/look';

/** The advance of a text in px at a size in px; given by whoever paints, since only they know the fonts. */
export type TextMeasure = (text: string, size: number, bold?: boolean) => number;

export type TextRole = 'category' | 'value' | 'tick' | 'guide' | 'name' | 'band' | 'event' | 'axis' | 'sum';

export interface SceneText {
  /** Anchor point; `y` is the middle of the line's height. */
  x: number;
  y: number;
  text: string;
  anchor: 'start' | 'middle' | 'end';
  role: TextRole;
  /** It lies within its mark, in the colour of the ground. */
  inside?: true;
  /** The mark it belongs to, if it belongs to one; of the name of a line, its series. */
  mark?: number;
  /** The place whose name it is, below an upright plot. */
  place?: number;
  /** So much room it has, px; left out where it fits. Of very many texts only those that are drawn are fitted. */
  room?: number;
}

export interface SceneLine {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
  role: 'grid' | 'zero' | 'guide' | 'event' | 'leader';
  style?: 'solid' | 'dashed' | 'dotted';
  colour?: LookColour;
}

/** Marks side by side at each place: one per series. */
export interface Slots {
  /** Places that are drawn. */
  places: number;
  /** Slots at each place. */
  per: number;
  /** They stand on each other instead. */
  stacked: boolean;
  /** Each place is a series of its own: readings are in the order of their series, not of their places. */
  alone: boolean;
  /** The reading in slot `place * per + series`, -1 where there is none. */
  at: Int32Array;
}

/**
 * Rectangular marks, one per reading, all in px. A reading without a value has a width and height of 0; one that is not
 * drawn is NaN.
 */
export interface RectMarks {
  shape: 'rects';
  x: Float64Array;
  y: Float64Array;
  width: Float64Array;
  height: Float64Array;
  /** Per mark the stretch along the value axis, px, in which the pointer is on it. */
  hitFrom: Float64Array;
  hitTo: Float64Array;
  slots: Slots;
  /** The muted parts by which bars are filled up to a whole. */
  rests: Box[];
}

/** A rectangle, px. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Points on lines, one per reading, px; NaN where a reading has no value. */
export interface PointMarks {
  shape: 'points';
  x: Float64Array;
  y: Float64Array;
  /** Where the filled ground below each point ends, px; left out for lines without. */
  base?: Float64Array;
}

/** Dots, one per reading, px; NaN where a reading is not drawn. */
export interface DotMarks {
  shape: 'dots';
  x: Float64Array;
  y: Float64Array;
  /** Px across. */
  size: number;
}

/** Slices of a ring, one per reading: angles from the top, clockwise, in radians; NaN where a reading has none. */
export interface SliceMarks {
  shape: 'slices';
  /** The middle of each slice, px. */
  x: Float64Array;
  y: Float64Array;
  from: Float64Array;
  to: Float64Array;
  centre: { x: number; y: number };
  inner: number;
  outer: number;
  /** The names beside slices, by which they can be pointed at too. */
  names: (Box & { mark: number })[];
}

export type Marks = RectMarks | PointMarks | DotMarks | SliceMarks;

/** Where the figure of a mark would stand, for marks too close together for all of them to have one. */
export interface LabelSpots {
  x: Float64Array;
  y: Float64Array;
  anchor: SceneText['anchor'];
  /** What stands for a mark here: its figure where it is left out. */
  of?: 'name';
}

/** Where values lie on the plot: `start` px is `domain[0]`, `end` px is `domain[1]`. */
export interface ValueAxis {
  direction: 'x' | 'y';
  scale: ScaleName;
  domain: readonly [number, number];
  start: number;
  end: number;
  /** The extent of the plot across the axis, px. */
  crossStart: number;
  crossEnd: number;
}

/** Categories side by side: category `i` covers `start + i * step` to `start + (i + 1) * step` px. */
export interface BandAxis {
  direction: 'x' | 'y';
  start: number;
  step: number;
  count: number;
}

/** A chart's geometry as plain data: what is where, never how it is lit. */
export interface Scene {
  /** May be larger than what was asked for: then the chart scrolls. */
  width: number;
  height: number;
  band: BandAxis;
  values: ValueAxis;
  /** The axis at the other side, where some series have one of their own. */
  second?: ValueAxis;
  marks: Marks;
  /** Left out where every figure has room of its own among the texts. */
  spots?: LabelSpots;
  /** Where the names of series stand at the ends of their lines: from here on to the right, px. */
  namesFrom?: number;
  texts: SceneText[];
  lines: SceneLine[];
  /** Readings that the axis does not reach: beyond its fixed ends, or not above zero on a log axis. */
  beyond: number;
}
