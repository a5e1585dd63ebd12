import type { LeverFacts, PositionLookup, Positions, Settled } from './lever-kind';
import { kindOf, type Lever } from './registry';

/** What the data says of each lever, by lever id. */
export type Facts = Readonly<Record<string, LeverFacts | undefined>>;

interface Remembered {
  raw: unknown;
  facts: LeverFacts | undefined;
  settled: Settled<unknown>;
}
const remembered = new WeakMap<Lever, Remembered>();
const unmoved = Symbol('unmoved');

/**
 * Where a lever stands: as moved or at its start, fitted to the data, with what that changed. The same arguments give
 * the very same position, so that whatever reads it can tell whether it has moved.
 */
export function settledPosition(lever: Lever, positions: Positions, facts: Facts): Settled<unknown> {
  const raw = lever.id in positions ? positions[lever.id] : unmoved;
  const known = facts[lever.id];
  const last = remembered.get(lever);
  if (last && last.raw === raw && last.facts === known) return last.settled;
  const kind = kindOf(lever);
  const settled = kind.settle(lever, raw === unmoved ? kind.start(lever, known) : raw, known);
  remembered.set(lever, { raw, facts: known, settled });
  return settled;
}

export function settledPositions(
  levers: readonly Lever[],
  positions: Positions,
  facts: Facts,
): PositionLookup {
  return (id) => {
    const lever = levers.find((candidate) => candidate.id === id);
    return lever && settledPosition(lever, positions, facts).position;
  };
}

export function isAtStart(lever: Lever, positions: Positions, facts: Facts): boolean {
  if (!(lever.id in positions)) return true;
  const kind = kindOf(lever);
  const start = kind.settle(lever, kind.start(lever, facts[lever.id]), facts[lever.id]).position;
  return kind.same(settledPosition(lever, positions, facts).position, start);
}
