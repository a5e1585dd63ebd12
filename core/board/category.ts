import { IsIn, IsString, MaxLength } from 'class-validator';
import { type Grain, grains } from '../data/dimension';
import { IsOptional } from './validation';

/** What a chart's categories are: the values of a field, or its periods. */
export class Category {
  @IsString()
  @MaxLength(63)
  field!: string;

  @IsOptional()
  @IsIn(grains)
  grain?: Grain;
}
