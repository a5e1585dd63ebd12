import 'reflect-metadata/lite';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsNotEmpty,
  IsOptional,
  IsString,
  MaxLength,
} from 'class-validator';
import { formKinds } from '../forms/registry';
import { sameCut } from '../grain';
import { type Guide, guideKinds } from '../guides/registry';
import { cutTaken } from '../levers/gift';
import { kindOf, type Lever } from '../levers/registry';
import { Also } from './also';
import { Axis } from './axis';
import { Category } from './category';
import { Compare } from './compare';
import { Cue } from './cue';
import { IsId } from './id';
import { Place } from './layout';
import { Measure } from './measure';
import { OfKind } from './of-kind';
import { type LabelRule, labelRules, Otherwise } from './otherwise';
import { Part } from './part';
import { type Arrangement, Split } from './split';
import { Whole } from './whole';

export const orderings = ['value', 'key', 'data'] as const;
export const directions = ['ascending', 'descending'] as const;

/** By the measure, by the category itself, or as the rows of the dataset first name them. */
export class Order {
  @IsIn(orderings)
  by!: (typeof orderings)[number];

  @IsIn(directions)
  direction!: (typeof directions)[number];
}

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

  @IsIn(formKinds.names())
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
  @Part(() => Also, true)
  also?: Also[];

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
  @OfKind(() => guideKinds, true)
  guides!: Guide[];

  @IsArray()
  @ArrayMaxSize(20)
  @Part(() => Touch, true)
  touches!: Touch[];
}

/** Whether each bar is a series of its own, so that it has a colour of its own. */
export const eachItsOwn = ({
  form,
  split,
  also,
  compare,
  colours,
}: Pick<Chart, 'form' | 'split' | 'also' | 'compare' | 'colours'>) =>
  colours === 'each' && formKinds.get(form).fills === true && !split && !also?.length && !compare;

const slices = new WeakMap<Category, Split>();
/** What parts a chart into series: what it says, or, around a centre or in colours of their own, each category itself. */
export function splitOf(
  chart: Pick<Chart, 'form' | 'by' | 'split' | 'also' | 'compare' | 'colours'>,
): Split | undefined {
  const { form, by, split } = chart;
  if (!formKinds.get(form).round && !eachItsOwn(chart)) return split;
  const known = slices.get(by) ?? { ...by, colours: 'own' };
  slices.set(by, known);
  return known;
}

/** The second measure along which the marks of a chart stand, where its form can. */
export const againstOf = ({ form, against }: Pick<Chart, 'form' | 'against'>): Measure | undefined =>
  formKinds.get(form).against ? against : undefined;

const none: readonly Also[] = [];
/** The further measures of a chart, where it can show them. */
export function alsoOf(chart: Pick<Chart, 'form' | 'split' | 'against' | 'also'>): readonly Also[] {
  const possible = !chart.split && !formKinds.get(chart.form).round && !againstOf(chart);
  return (possible && chart.also) || none;
}

/** What a chart measures now: its first measure and the further ones that are not switched off. */
export const shownMeasures = (chart: Chart): { measure: Measure; also: readonly Also[] } => ({
  measure: chart.measure,
  also: alsoOf(chart).filter(({ off }) => !off),
});

/** The measure that a chart rehearses beside the one that is: what new sentences go by; undefined where it does not. */
export const rehearsedMeasure = (chart: Chart): Measure | undefined =>
  shownMeasures(chart).also.find(({ base }) => base === 'muted')?.measure;

/** What the marks of a chart are compared with, where its form can show that: one measure, on an axis from zero. */
export const compareOf = (chart: Chart): Compare | undefined =>
  !formKinds.get(chart.form).round &&
  !againstOf(chart) &&
  !alsoOf(chart).length &&
  arrangementOf(chart) === 'beside'
    ? chart.compare
    : undefined;

const measured = new WeakMap<readonly Also[], Split>();
/** By what the marks of a chart are told apart by colour: its series, or its measures. */
export function colouredBy(chart: Chart): Split | undefined {
  const also = alsoOf(chart);
  if (!also.length) return splitOf(chart);
  const known = measured.get(also) ?? { ...chart.by, colours: 'own' };
  measured.set(also, known);
  return known;
}

/** Whether marks stand along an axis of their categories: only there can a stretch be brushed, or an event be drawn. */
export const standsAlong = (chart: Pick<Chart, 'form' | 'against' | 'split'>): boolean => {
  const form = formKinds.get(chart.form);
  return !form.round && !againstOf(chart) && !(chart.split && form.listsReadings);
};

/** How the series of a chart stand: as it says, where its form can. */
export const arrangementOf = ({ form, split }: Pick<Chart, 'form' | 'split'>): Arrangement =>
  (formKinds.get(form).stacks && split?.arrange) || 'beside';

/** Whether the bars of a chart are filled up to a whole: single or stacked ones can be. */
export const fillsUp = (chart: Chart): boolean =>
  chart.whole !== undefined &&
  formKinds.get(chart.form).fills === true &&
  (chart.split === undefined || arrangementOf(chart) === 'stacked');

/** Whether what the marks of a chart give can be put into a lever. */
export const canTouch = (chart: Chart, lever: Lever): boolean =>
  kindOf(lever).touch?.fits(lever, chart) ?? false;

/** The lever that a gesture on the chart moves: the first named for it that takes what the marks stand for. */
export const touchLever = (chart: Chart, gesture: Gesture, levers: readonly Lever[]): Lever | undefined => {
  for (const touch of chart.touches) {
    const lever = touch.gesture === gesture && levers.find(({ id }) => id === touch.lever);
    if (lever && canTouch(chart, lever)) return lever;
  }
  return undefined;
};

/** The lever that choosing a name of a series moves: the one named for the legend, or for clicks, that takes series. */
export function legendLever(chart: Chart, levers: readonly Lever[]): Lever | undefined {
  for (const gesture of ['legend', 'click'] as const) {
    const lever = touchLever(chart, gesture, levers);
    const split = splitOf(chart);
    const taken = lever && cutTaken(lever, chart);
    if (split && taken && (taken === split || sameCut(split, chart.by))) return lever;
  }
  return undefined;
}

/** The span lever that a drag across a chart brushes; bands must rise along their axis. */
export function brushLever(chart: Chart, levers: readonly Lever[]): Lever | undefined {
  if (chart.order.by !== 'key' || chart.order.direction !== 'ascending') return undefined;
  if (!standsAlong(chart)) return undefined;
  const lever = touchLever(chart, 'drag', levers);
  return lever && kindOf(lever).interval ? lever : undefined;
}
