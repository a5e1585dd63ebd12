import { IsOptional } from './validation';
import 'reflect-metadata/lite';
import { ArrayMaxSize, Equals, IsArray, IsIn, IsNotEmpty, IsString, MaxLength } from 'class-validator';
import { Chart } from './chart';
import { AreDays, BoardEvent } from './event';
import { IsLocale } from './locale-tag';
import { Moment } from './moment';
import { Note } from './note';
import { OfKind } from './of-kind';
import { type MutedTone, mutedTones, usualTone } from './otherwise';
import { Part } from './part';
import type { SpecOf } from './specs';

/** The spec of any lever. */
export type Lever = SpecOf<'lever'>;

/** The version of the board document that this program writes; older ones are migrated when read. */
export const boardVersion = 1;

/** Charts that a board can have. */
export const mostCharts = 60;

export const grounds = ['light', 'dark'] as const;

/** A page of charts and levers: the one document that is saved, published and carried elsewhere. */
export class Board {
  @Equals(boardVersion)
  version!: typeof boardVersion;

  @IsString()
  @IsNotEmpty()
  @MaxLength(200)
  title!: string;

  /** The question this board answers, under its title. */
  @IsOptional()
  @IsString()
  @MaxLength(400)
  subtitle?: string;

  /** How pale muted marks are, where a chart does not say otherwise. */
  @IsOptional()
  @IsIn(mutedTones)
  muted?: MutedTone;

  /** The ground it is shown on, where the viewer has not chosen one; left out, that of the viewer's system. */
  @IsOptional()
  @IsIn(grounds)
  ground?: (typeof grounds)[number];

  /** The language in which viewers read it, and how numbers and dates are written: a tag as "de" or "en-GB". */
  @IsOptional()
  @IsLocale()
  locale?: string;

  /** What happened when: drawn, and told apart by, on charts of this board. */
  @IsOptional()
  @ArrayMaxSize(200)
  @Part(() => BoardEvent, true)
  events?: BoardEvent[];

  /** Days on which nobody works, besides Saturdays and Sundays. */
  @IsOptional()
  @ArrayMaxSize(2000)
  @AreDays()
  holidays?: string[];

  @ArrayMaxSize(100)
  @OfKind('lever', true)
  levers!: Lever[];

  @IsArray()
  @ArrayMaxSize(mostCharts)
  @Part(() => Chart, true)
  charts!: Chart[];

  /** Texts beside the charts. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(60)
  @Part(() => Note, true)
  notes?: Note[];

  /** What to step through while presenting, in its order. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(100)
  @Part(() => Moment, true)
  moments?: Moment[];
}

export const leverOf = (board: Board, id: string): Lever | undefined =>
  board.levers.find((lever) => lever.id === id);
/** How pale muted marks of a chart are. */
export const toneOf = (chart: Chart, board: Board): MutedTone =>
  chart.otherwise?.tone ?? board.muted ?? usualTone;
/** The dataset a lever reads, if it reads one. */
export const datasetOf = (lever: Lever): string | undefined =>
  'dataset' in lever ? lever.dataset : undefined;
export const chartOf = (board: Board, id: string | undefined): Chart | undefined =>
  board.charts.find((chart) => chart.id === id);

/** The ids of the datasets a board reads, each once. */
export const datasetsOf = (board: Board): string[] => [
  ...new Set([
    ...board.charts.map((chart) => chart.dataset),
    ...board.levers.flatMap((lever) => datasetOf(lever) ?? []),
  ]),
];
