import { IsBoolean, IsIn, IsInt, IsString, Max, MaxLength, Min } from 'class-validator';
import { IsOptional } from './validation';

export const figureStyles = ['number', 'percent', 'brief'] as const;
export const unitPlaces = ['before', 'after'] as const;

/** How the figures of a measure are written; nothing of it changes a figure. */
export class FigureFormat {
  /** As they are; times 100 with a percent sign; or in thousands and millions. */
  @IsIn(figureStyles)
  as!: (typeof figureStyles)[number];

  /** As many as the size of the figure deserves where it is left out. */
  @IsOptional()
  @IsInt()
  @Min(0)
  @Max(6)
  decimals?: number;

  /** "min", "€", "pax". */
  @IsOptional()
  @IsString()
  @MaxLength(16)
  unit?: string;

  /** A plus stands before what is above zero. */
  @IsOptional()
  @IsBoolean()
  signed?: boolean;

  /** After the figure where it is left out. */
  @IsOptional()
  @IsIn(unitPlaces)
  unitAt?: (typeof unitPlaces)[number];
}
