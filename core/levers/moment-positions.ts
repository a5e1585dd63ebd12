import type { Moment, MomentPositions } from '../board/moment';
import type { Positions } from './lever-kind';
import { positionsFromQuery, positionsToQuery } from './positions';
import type { Lever } from './registry';
import type { Facts } from './settled-positions';

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
