import { IsLocale } from '@sorvik/core/board/locale-tag';
import { Transform, Type } from 'class-transformer';
import { IsBoolean, IsIn, IsInt, IsNumber, IsOptional, IsString, Max, MaxLength, Min } from 'class-validator';
import { orientations, type Pages, papers } from './painter-order';

/** How a picture is wanted. Where levers stand is said besides, as in the address of a show. */
export class PictureQuery {
  /** The room for the plot, px. */
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(160)
  @Max(4000)
  width?: number;

  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(100)
  @Max(4000)
  height?: number;

  @IsOptional()
  @IsIn(['light', 'dark'])
  theme?: 'light' | 'dark';

  /** Of PNG, the dots for each px. */
  @IsOptional()
  @Type(() => Number)
  @IsNumber()
  @Min(0.5)
  @Max(4)
  scale?: number;

  /** The language of words, numbers and dates, as a BCP 47 tag. */
  @IsOptional()
  @IsLocale()
  lang?: string;

  /** `off`: what is lit is not told below the plot. */
  @IsOptional()
  @Transform(({ value }) => (value === 'off' ? false : value === 'on' ? true : value))
  @IsBoolean()
  caption?: boolean;

  /** Of PDF, the size of its pages and how they lie. */
  @IsOptional()
  @IsIn(papers)
  paper?: Pages['paper'];

  @IsOptional()
  @IsIn(orientations)
  orientation?: Pages['orientation'];

  /** The link to the board that lets whoever sees the picture see it. */
  @IsOptional()
  @IsString()
  @MaxLength(200)
  link?: string;
}
