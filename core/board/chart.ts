import { IsOptional } from './validation';
import 'reflect-metadata/lite';
import { ArrayMaxSize, IsArray, IsBoolean, IsIn, IsNotEmpty, IsString, MaxLength } from 'class-validator';
import { Axis } from './axis';
import { Category } from './category';
import { Compare } from './compare';
import { Cue } from './cue';
import { FurtherMeasure } from './further-measure';
import { IsId } from './id';
import { Place } from './layout';
import { Measure } from './measure';
import { KindName, OfKind } from './of-kind';
import { Order } from './order';
import { type LabelRule, labelRules, Otherwise } from './otherwise';
import { Part } from './part';
import type { SpecOf } from './specs';
import { Split } from './split';
import { Whole } from './whole';

export const gestures = ['click', 'hover', 'drag', 'legend'] as const;
export type Gesture = (typeof gestures)[number];

/** A gesture on the chart puts what the marks stand for into a lever. What clearing does is the lever's word. */
export class Touch {
  @IsIn(gestures)
  gesture!: Gesture;

  @IsId()
  lever!: string;

  /** Switched off without being deleted. */
  @IsOptional()
  @IsBoolean()
  off?: boolean;
}

export const legendPlaces = ['above', 'right', 'below', 'none'] as const;

export const colourings = ['each', 'one'] as const;
export const figurePlaces = ['inside', 'beyond'] as const;

export const missingRules = ['zero', 'bridged'] as const;
/** What stands for a missing reading: zero, or a straight line between its neighbours. */
export type MissingRule = (typeof missingRules)[number];

export const windowAxes = ['following', 'fixed'] as const;

/** What a chart has at most one of, and can be without. */
export const singles = [
  'whole',
  'compare',
  'window',
  'axis',
  'missing',
  'labels',
  'figures',
  'colours',
  'legend',
  'subtitle',
  'format',
  'share',
  'beside',
  'pointed',
] as const;
export type Single = (typeof singles)[number];

/** Which part of a long axis is in view. */
export class ChartWindow {
  @IsId()
  lever!: string;

  /** Whether the value axis follows what is in view, or stays fixed over all there is. */
  @IsIn(windowAxes)
  axis!: (typeof windowAxes)[number];
}

/** One plot on a board. */
export class Chart {
  @IsId()
  id!: string;

  /** Left out: the title follows the measure and the category. `{lever}` stands for that lever's position. */
  @IsOptional()
  @IsString()
  @MaxLength(200)
  title?: string;

  @KindName('form')
  form!: string;

  @IsId()
  dataset!: string;

  @Part(() => Category)
  by!: Category;

  /** Parts the chart into series. */
  @IsOptional()
  @Part(() => Split)
  split?: Split;

  @Part(() => Measure)
  measure!: Measure;

  /** For dots: the second measure, along which they stand; at the places of their categories where it is left out. */
  @IsOptional()
  @Part(() => Measure)
  against?: Measure;

  /** Further measures, a series each; for a chart that is not parted otherwise. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(3)
  @Part(() => FurtherMeasure, true)
  also?: FurtherMeasure[];

  /** Where the value axis begins and ends; left out, from zero to the largest reading, rounded. */
  @IsOptional()
  @Part(() => Axis)
  axis?: Axis;

  /** What a line does where a reading is missing; left out, it breaks off. */
  @IsOptional()
  @IsIn(missingRules)
  missing?: MissingRule;

  @Part(() => Order)
  order!: Order;

  @IsArray()
  @ArrayMaxSize(50)
  @Part(() => Cue, true)
  cues!: Cue[];

  /** Each bar is filled up to a whole with a muted part. */
  @IsOptional()
  @Part(() => Whole)
  whole?: Whole;

  /** Each mark shows how it stands against another figure. */
  @IsOptional()
  @Part(() => Compare)
  compare?: Compare;

  /** What marks are that no active cue lights; left out, muted in the board's tone. */
  @IsOptional()
  @Part(() => Otherwise)
  otherwise?: Otherwise;

  /** Which marks carry their figure; left out, all that have room. */
  @IsOptional()
  @IsIn(labelRules)
  labels?: LabelRule;

  /** Where figures of bars and columns stand; beyond their ends where it is left out. */
  @IsOptional()
  @IsIn(figurePlaces)
  figures?: (typeof figurePlaces)[number];

  /** While nothing is lit each bar has a colour of its own; for bars and columns of one measure, without series. */
  @IsOptional()
  @IsIn(colourings)
  colours?: (typeof colourings)[number];

  /** What stands beside marks in the place of their figure: a formula over the readings. */
  @IsOptional()
  @IsString()
  @IsNotEmpty()
  @MaxLength(10_000)
  beside?: string;

  /** What is said besides of a mark that is pointed at: a formula over the readings. */
  @IsOptional()
  @IsString()
  @IsNotEmpty()
  @MaxLength(10_000)
  pointed?: string;

  @IsOptional()
  @Part(() => ChartWindow)
  window?: ChartWindow;

  /** Under the title, with live words: `{lever}` for what a lever holds, `{lit}` and `{all}` for numbers of marks. */
  @IsOptional()
  @IsString()
  @MaxLength(300)
  subtitle?: string;

  /** Where the looks are explained; above the plot where it is left out. */
  @IsOptional()
  @IsIn(legendPlaces)
  legend?: (typeof legendPlaces)[number];

  /** What of it is switched off without being deleted; what it has several of says so itself. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(singles.length)
  @IsIn(singles, { each: true })
  off?: Single[];

  /** Where it lies on the grid of the board; left out, after the charts before it. */
  @IsOptional()
  @Part(() => Place)
  place?: Place;

  @ArrayMaxSize(50)
  @OfKind('guide', true)
  guides!: SpecOf<'guide'>[];

  @IsArray()
  @ArrayMaxSize(20)
  @Part(() => Touch, true)
  touches!: Touch[];
}
