import { IsIn } from 'class-validator';
import { type Figure, IsFigure } from './figure';
import { Measure } from './measure';
import { Part } from './part';
import { IsOptional, RequiredWhen } from './validation';

export const wholesOf = ['everything', 'filters', 'largest', 'measure', 'figure'] as const;
export const wholeScopes = ['kept', 'everything'] as const;

/** What each bar is filled up to with a muted part, so that it reads as a share. */
export class Whole {
  /**
   * The chart's measure over all the data, over what the filters keep, the largest reading in view, another measure of
   * each bar, or a figure.
   */
  @IsIn(wholesOf)
  of!: (typeof wholesOf)[number];

  @RequiredWhen('of', ['figure'])
  @IsFigure()
  figure?: Figure;

  /** For `measure`: what each bar is held against, its capacity or its target. */
  @RequiredWhen('of', ['measure'])
  @Part(() => Measure)
  measure?: Measure;

  /** For `measure`: over the rows that the filters keep where it is left out, or over all of them. */
  @IsOptional()
  @IsIn(wholeScopes)
  over?: (typeof wholeScopes)[number];
}
