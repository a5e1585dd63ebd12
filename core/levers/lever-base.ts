import { IsBoolean, IsIn, IsNotEmpty, IsString, MaxLength } from 'class-validator';
import { IsId } from '../board/id';
import { IsOptional } from '../board/validation';
import { type Grain, grains } from '../data/dimension';
import { type Clearing, clearings } from './lever-kind';

export const leverPlaces = ['side', 'above', 'title'] as const;
/** Beside the charts, in a row above them, or only inside the titles that name it. */
export type LeverPlace = (typeof leverPlaces)[number];

/** What every lever has, whatever it holds. */
export class LeverBase {
  @IsId()
  id!: string;

  @IsString()
  @IsNotEmpty()
  @MaxLength(80)
  name!: string;

  @IsIn(clearings)
  clearing!: Clearing;

  /** Left out: beside the charts. */
  @IsOptional()
  @IsIn(leverPlaces)
  place?: LeverPlace;

  /** Levers that follow each other with the same group stand under it as a heading. */
  @IsOptional()
  @IsString()
  @MaxLength(60)
  group?: string;

  /** Viewers do not see it and cannot move it: it stays at its start. */
  @IsOptional()
  @IsBoolean()
  hidden?: boolean;
}

/** A lever that stands on a field of a dataset. */
export class FieldLever extends LeverBase {
  @IsId()
  dataset!: string;

  @IsString()
  @MaxLength(63)
  field!: string;

  /** For a date field: the lever works with its periods. */
  @IsOptional()
  @IsIn(grains)
  grain?: Grain;
}
