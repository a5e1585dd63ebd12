import 'reflect-metadata/lite';
import { IsBoolean } from 'class-validator';
import { IsId } from './id';
import { IsOptional } from './validation';

/** A part of a chart that can be switched, by a viewer or by its author. */
export class Switched {
  @IsId()
  id!: string;

  /** A switch while which is on it holds; while it is off, all is as if this part were not there. */
  @IsOptional()
  @IsId()
  when?: string;

  /** Switched off without being deleted. */
  @IsOptional()
  @IsBoolean()
  off?: boolean;
}
