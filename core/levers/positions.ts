import type { Positions } from './lever-kind';
import type { Lever } from './registry';
import { leverKinds } from './registry';

/** Where a lever stands: as moved, or at its start. */
export const positionOf = (lever: Lever, positions: Positions): unknown =>
  lever.id in positions ? positions[lever.id] : leverKinds.get(lever.kind).start(lever);

export const isAtStart = (lever: Lever, positions: Positions): boolean => {
  const kind = leverKinds.get(lever.kind);
  return kind.same(positionOf(lever, positions), kind.start(lever));
};

/**
 * Positions as a query string, one parameter per lever that is not at its start, named by the lever's id and
 * repeated per value: `?routes=Quel – Ostrin&routes=Harl – Vemmen`. A lever that holds nothing reads `routes=`.
 */
export function positionsToQuery(levers: readonly Lever[], positions: Positions): URLSearchParams {
  const query = new URLSearchParams();
  for (const lever of levers) {
    if (isAtStart(lever, positions)) continue;
    for (const text of leverKinds.get(lever.kind).toQuery(positionOf(lever, positions)))
      query.append(lever.id, text);
  }
  return query;
}

/** The positions a query string names; parameters that name no lever are ignored. */
export function positionsFromQuery(levers: readonly Lever[], query: URLSearchParams): Positions {
  const positions: Record<string, unknown> = {};
  for (const lever of levers) {
    if (query.has(lever.id))
      positions[lever.id] = leverKinds.get(lever.kind).fromQuery(lever, query.getAll(lever.id));
  }
  return positions;
}
