import { IsIn, ValidateIf } from 'class-validator';
import { type Figure, IsFigure } from './figure';

export const wholesOf = ['everything', 'filters', 'largest', 'figure'] as const;

/** What each bar is filled up to with a muted part, so that it reads as a share. */
export class Whole {
  /** The measure over all the data, over what the filters keep, the largest reading in view, or a figure. */
  @IsIn(wholesOf)
  of!: (typeof wholesOf)[number];

  @ValidateIf((whole: Whole) => whole.of === 'figure')
  @IsFigure()
  figure?: Figure;
}
