import 'reflect-metadata';
import { ArrayMaxSize, IsArray, IsIn, IsOptional, IsString, MaxLength } from 'class-validator';
import { formKinds } from '../forms/registry';
import { type Grain, grains, sameCut } from '../grain';
import { type Guide, guideKinds } from '../guides/registry';
import { type Lever, leverKinds } from '../levers/registry';
import { Cue } from './cue';
import { IsId } from './id';
import { OfKind } from './of-kind';
import { Part } from './part';

export const aggregates = ['sum', 'average', 'count', 'min', 'max'] as const;
export type Aggregate = (typeof aggregates)[number];

/** An aggregate of a field; `count` without a field counts rows. */
export class Measure {
  @IsIn(aggregates)
  aggregate!: Aggregate;

  @IsOptional()
  @IsString()
  @MaxLength(63)
  field?: string;
}

/** What a chart's categories are: the values of a field, or its periods. */
export class Category {
  @IsString()
  @MaxLength(63)
  field!: string;

  @IsOptional()
  @IsIn(grains)
  grain?: Grain;
}

export const orderings = ['value', 'key', 'data'] as const;
export const directions = ['ascending', 'descending'] as const;

/** By the measure, by the category itself, or as the rows of the dataset first name them. */
export class Order {
  @IsIn(orderings)
  by!: (typeof orderings)[number];

  @IsIn(directions)
  direction!: (typeof directions)[number];
}

export const gestures = ['click'] as const;

/** A gesture on the chart's marks puts their category into a lever. What clearing does is the lever's word. */
export class Touch {
  @IsIn(gestures)
  gesture!: (typeof gestures)[number];

  @IsId()
  lever!: string;
}

/** One plot on a board. */
export class Chart {
  @IsId()
  id!: string;

  /** Left out: the title follows the measure and the category. */
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

  @Part(() => Measure)
  measure!: Measure;

  @Part(() => Order)
  order!: Order;

  @IsArray()
  @ArrayMaxSize(50)
  @Part(() => Cue, true)
  cues!: Cue[];

  @ArrayMaxSize(50)
  @OfKind(guideKinds, true)
  guides!: Guide[];

  @IsArray()
  @ArrayMaxSize(20)
  @Part(() => Touch, true)
  touches!: Touch[];
}

/** The lever that a touch on the chart's marks moves: the first that holds what the marks stand for. */
export const chartTouchLever = (chart: Chart, levers: readonly Lever[]): Lever | undefined =>
  levers.find(
    (lever) =>
      chart.touches.some((touch) => touch.lever === lever.id) &&
      leverKinds.get(lever.kind).holdsValues &&
      lever.dataset === chart.dataset &&
      sameCut(lever, chart.by),
  );
