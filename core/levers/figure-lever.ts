import { IsIn, IsInt, IsNumber, IsPositive, IsString, Max, MaxLength, Min } from 'class-validator';
import { IsOptional } from '../board/validation';
import { LeverBase } from './lever-base';

export const outsides = ['nearest', 'start'] as const;
/** What becomes of a position outside the bounds: the nearest bound, or the start. */
export type Outside = (typeof outsides)[number];

/** What levers that hold figures have in common. */
export class FigureLever extends LeverBase {
  @IsNumber({ allowNaN: false, allowInfinity: false })
  @IsPositive()
  step!: number;

  @IsOptional()
  @IsString()
  @MaxLength(20)
  unit?: string;

  /** Decimals shown; left out, as many as the step has. */
  @IsOptional()
  @IsInt()
  @Min(0)
  @Max(10)
  decimals?: number;

  @IsIn(outsides)
  outside!: Outside;
}
