import { closedObject, IsOptional, Own, oneOf } from './validation';
import 'reflect-metadata/lite';
import { ArrayMaxSize, IsIn } from 'class-validator';
import { idPattern, idSchema } from './id';
import { Look } from './look';
import { OfKind } from './of-kind';
import { Part } from './part';
import type { SpecOf } from './specs';
import { Switched } from './switched';

export const cueEffects = ['light', 'filter', 'keep'] as const;
/** What becomes of categories that are not kept: they go, or are one category together. */
export const cueRemainders = ['gone', 'together'] as const;
export const cueRestings = ['plain', 'muted'] as const;
export type CueEffect = (typeof cueEffects)[number];

/** A position that stands in for a lever that holds nothing. */
export interface StandIn {
  lever: string;
  position: unknown;
}
export type CueResting = (typeof cueRestings)[number] | StandIn;

export const isStandIn = (resting: CueResting): resting is StandIn => typeof resting === 'object';

const isResting = (value: unknown): boolean => {
  if (typeof value !== 'object' || value === null) return cueRestings.includes(value as never);
  const { lever, position, ...rest } = value as Record<string, unknown>;
  return (
    typeof lever === 'string' &&
    idPattern.test(lever) &&
    position !== undefined &&
    Object.keys(rest).length === 0 &&
    JSON.stringify(position).length <= 100_000
  );
};

/**
 * A condition and what it does to the chart: light the marks that meet it, keep only their rows, or keep only the
 * categories that meet it once their rows are taken together.
 */
export class Cue extends Switched {
  @IsIn(cueEffects)
  effect!: CueEffect;

  /** For `keep`: what becomes of the other categories; gone where it is left out. */
  @IsOptional()
  @IsIn(cueRemainders)
  remainder?: (typeof cueRemainders)[number];

  @OfKind('condition')
  condition!: SpecOf<'condition'>;

  @Part(() => Look)
  look!: Look;

  /** Looks for the sides or stretches that the condition tells apart, in their order; each goes before `look`. */
  @IsOptional()
  @ArrayMaxSize(200)
  @Part(() => Look, true)
  looks?: Look[];

  /** What all marks are while this cue's levers hold nothing; or a position that stands in for what is not held. */
  @Own({
    name: 'isResting',
    validate: isResting,
    message: 'check.resting',
    schema: { anyOf: [oneOf(...cueRestings), closedObject({ lever: idSchema, position: {} })] },
  })
  resting!: CueResting;
}
