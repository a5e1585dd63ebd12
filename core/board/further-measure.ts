import { IsOptional } from './validation';
import 'reflect-metadata/lite';
import { IsBoolean, IsIn } from 'class-validator';
import { Measure } from './measure';
import { Part } from './part';

export const measureAxes = ['same', 'second'] as const;

export const bases = ['plain', 'muted'] as const;

/** A further measure of a chart: a series of its own, beside the chart's first. */
export class FurtherMeasure {
  @Part(() => Measure)
  measure!: Measure;

  /** Measured on the chart's value axis where it is left out, or on a second one at the other side. */
  @IsOptional()
  @IsIn(measureAxes)
  axis?: (typeof measureAxes)[number];

  /** How the chart's first measure stands beside this one; as any other where it is left out. */
  @IsOptional()
  @IsIn(bases)
  base?: (typeof bases)[number];

  /** Switched off without being deleted. */
  @IsOptional()
  @IsBoolean()
  off?: boolean;
}
