import { IsNotEmpty, IsString, MaxLength, ValidateBy } from 'class-validator';
import type { Positions } from '../levers/lever-kind';
import { positionsFromQuery, positionsToQuery } from '../levers/positions';
import type { Lever } from '../levers/registry';
import type { Facts } from '../levers/standing';
import { IsId, idPattern } from './id';

/** Where levers stood, by their ids, each as the words of an address: those that are left out stand at their start. */
export type MomentPositions = Record<string, string[]>;

const mostTexts = 10_000;
const areTexts = (value: unknown) =>
  Array.isArray(value) &&
  value.length <= mostTexts &&
  value.every((text) => typeof text === 'string' && text.length <= 1000);

const IsMomentPositions = () =>
  ValidateBy({
    name: 'isMomentPositions',
    validator: {
      validate: (value) =>
        typeof value === 'object' &&
        value !== null &&
        !Array.isArray(value) &&
        Object.entries(value).every(([lever, texts]) => idPattern.test(lever) && areTexts(texts)),
      defaultMessage: (args) =>
        `${args?.property} must name where levers stand as an address does: {"count": ["3"], "routes": ["Quel", "Harl"]}`,
    },
  });

/** Lever positions that are kept with a caption, to be stepped through while presenting. */
export class Moment {
  @IsId()
  id!: string;

  @IsString()
  @IsNotEmpty()
  @MaxLength(300)
  caption!: string;

  @IsMomentPositions()
  at!: MomentPositions;
}

/** Where levers stand now, as a moment keeps it. */
export function momentPositions(
  levers: readonly Lever[],
  positions: Positions,
  facts: Facts,
): MomentPositions {
  const query = positionsToQuery(levers, positions, facts);
  return Object.fromEntries([...new Set(query.keys())].map((lever) => [lever, query.getAll(lever)]));
}

const queryOf = (at: MomentPositions): URLSearchParams =>
  new URLSearchParams(Object.entries(at).flatMap(([lever, texts]) => texts.map((text) => [lever, text])));

/** The positions of a moment; a lever that has gone, or that cannot read its part any more, is left out. */
export const positionsOfMoment = (levers: readonly Lever[], { at }: Moment): Positions =>
  positionsFromQuery(levers, queryOf(at)).positions;

/** Whether levers stand as they do in a moment. */
export const isAtMoment = (
  levers: readonly Lever[],
  moment: Moment,
  positions: Positions,
  facts: Facts,
): boolean =>
  positionsToQuery(levers, positions, facts).toString() ===
  positionsToQuery(levers, positionsOfMoment(levers, moment), facts).toString();
