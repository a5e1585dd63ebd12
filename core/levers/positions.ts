import type { Positions } from './lever-kind';
import { kindOf, type Lever } from './registry';
import { type Facts, isAtStart, settledPosition } from './settled-positions';

/**
 * Positions as a query string, one parameter per lever that is not at its start, named by the lever's id and repeated
 * where a position has several parts: `?routes=Quel – Ostrin&routes=Harl – Vemmen&count=3&limits=40..85`. A lever that
 * holds nothing reads `routes=`. Levers hidden from viewers have no place in it.
 */
export function positionsToQuery(
  levers: readonly Lever[],
  positions: Positions,
  facts: Facts,
): URLSearchParams {
  const query = new URLSearchParams();
  for (const lever of levers) {
    if (lever.hidden || isAtStart(lever, positions, facts)) continue;
    for (const text of kindOf(lever).toQuery(settledPosition(lever, positions, facts).position))
      query.append(lever.id, text);
  }
  return query;
}

/** The positions a query string names, and the levers whose part of it cannot be read. Other parameters are ignored. */
export function positionsFromQuery(
  levers: readonly Lever[],
  query: URLSearchParams,
): { positions: Positions; unread: string[] } {
  const positions: Record<string, unknown> = {};
  const unread: string[] = [];
  for (const lever of levers) {
    if (lever.hidden || !query.has(lever.id)) continue;
    const position = kindOf(lever).fromQuery(lever, query.getAll(lever.id));
    if (position === undefined) unread.push(lever.id);
    else positions[lever.id] = position;
  }
  return { positions, unread };
}
