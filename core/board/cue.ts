import 'reflect-metadata';
import { IsBoolean, IsIn, IsOptional } from 'class-validator';
import { type Condition, conditionKinds } from '../conditions/registry';
import { IsId } from './id';
import { Look } from './look';
import { OfKind } from './of-kind';
import { Part } from './part';

export const cueEffects = ['light', 'filter'] as const;
export const cueRestings = ['plain', 'muted'] as const;
export type CueEffect = (typeof cueEffects)[number];
export type CueResting = (typeof cueRestings)[number];

/** A condition and what it does to the chart: light the marks that meet it, or keep only their rows. */
export class Cue {
  @IsId()
  id!: string;

  @IsIn(cueEffects)
  effect!: CueEffect;

  @OfKind(() => conditionKinds)
  condition!: Condition;

  @Part(() => Look)
  look!: Look;

  /** What all marks are while this cue's levers hold nothing. */
  @IsIn(cueRestings)
  resting!: CueResting;

  /** A switch while which is on the cue holds; while it is off the cue is as if it were not there. */
  @IsOptional()
  @IsId()
  when?: string;

  /** Switched off without being deleted. */
  @IsOptional()
  @IsBoolean()
  off?: boolean;
}
