import type { Kind } from '../data/kinds';
import type { Ends, Readings } from '../data/readings';
import type { Scene, TextMeasure } from './scene';
import type { AxisRange } from './value-axis';

export interface FormInput {
  readings: Readings;
  /** How each place's category reads, and each series. */
  labels: readonly string[];
  seriesNames: readonly string[];
  /** How the value of a reading reads. */
  valueText(index: number): string;
  /** Where each reading begins and ends on the value axis. */
  ends: Ends;
  /** Readings of a place stand on each other, not side by side. */
  stacked: boolean;
  /** Each place is a series of its own: no place is shared among them. */
  alone: boolean;
  /** Figures stand within their bars, where they have room there. */
  inside: boolean;
  /** Per place what its bar is filled up to, NaN for nothing; null where none is. */
  wholes: Float64Array | null;
  /** How the figures of the value axis read, told from each other. */
  tickTexts(values: readonly number[]): string[];
  /** How a share of a whole reads. */
  shareText(share: number): string;
  /** The room there is, px. */
  width: number;
  height: number;
  /** The values that the axis shows. */
  range: AxisRange;
  /** For marks that stand along a second measure instead of at places: its figures, one per reading. */
  along?: Along;
  second?: SecondAxis;
  /** Marks are made as thin as it takes to fit, instead of the chart growing beyond its room. */
  fit: boolean;
  /** Rows of names that guides will write above the plot. */
  headRows: number;
  /** Preferred distances between labels that are thinned, rising; none where any will do. */
  labelSteps: readonly number[];
  measure: TextMeasure;
  /** A small picture without words: everything is made to fit. */
  miniature: boolean;
}

/** A second measure along the other axis. */
export interface Along {
  value: Float64Array;
  range: AxisRange;
  tickTexts(values: readonly number[]): string[];
  /** What is measured along this axis, and across it. */
  name: string;
  across: string;
}

/** A second value axis at the other side of the plot, for some of the series. */
export interface SecondAxis {
  /** Per series 1 where it is measured on this axis. */
  on: Uint8Array;
  range: AxisRange;
  tickTexts(values: readonly number[]): string[];
  /** What is measured on the first axis, and on this one. */
  first: string;
  name: string;
}

/** One form of chart: readings to geometry. Pure, and blind to which marks are lit. */
export interface FormKind extends Kind {
  /** What the sentence calls it: "columns", "lines". */
  word: string;
  /** What the sentence calls its marks, and one of them. */
  noun: string;
  markNoun: string;
  /** One of its marks, for messages that choose by it. */
  mark: string;
  /** What an author may want to know to choose it. */
  note?: string;
  /** Places are evenly far apart in time: a period without a reading has one too. */
  everyPeriod?: true;
  /** Its marks are points on lines, which can be lit in part. */
  lineStates?: true;
  /** Its series can stand on each other. */
  stacks?: true;
  /** Each reading has a place of its own: places along its axis are not those of the categories. */
  listsReadings?: true;
  /** Its marks are measured from zero: an axis that begins elsewhere would mislead. */
  fromZero?: true;
  /** Some of its series can be measured on a second value axis. */
  secondAxis?: true;
  /** Its marks can stand along a second measure. */
  against?: true;
  /** Its marks lie around a centre, each a series of its own: there is no axis to draw guides on. */
  round?: true;
  /** Its marks can be filled up to a whole. */
  fills?: true;
  /** In steps, for the sake of very many marks. */
  scene(input: FormInput): Generator<void, Scene>;
}

/** From this many bars on they are thin enough to stand in the room that so many take, and are painted on a canvas. */
export const manyBars = 2000;
export const textSize = { category: 13, value: 13, tick: 12, guide: 12, name: 12 } as const;
