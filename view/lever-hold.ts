import type { LeverFacts, TouchUse, TouchValues } from '@sorvik/core/levers/lever-kind';
import { kindOf, type Lever } from '@sorvik/core/levers/registry';

/** A lever in the hand of a gesture: where it stands this moment, and how to move it. */
export interface LeverHold {
  lever: Lever;
  position: unknown;
  facts: LeverFacts | undefined;
  move(position: unknown, passing?: boolean): void;
  put(touch: TouchValues, use: TouchUse, passing?: boolean): void;
  clear(passing?: boolean): void;
}

/** Takes a lever in hand; `move` is told of each position that it is moved to. */
export function holdOf(
  lever: Lever,
  position: unknown,
  facts: LeverFacts | undefined,
  moveTo: (lever: Lever, position: unknown, passing: boolean) => void,
): LeverHold {
  const kind = kindOf(lever);
  const move = (next: unknown, passing = false) => moveTo(lever, next, passing);
  return {
    lever,
    position,
    facts,
    move,
    put: (touch, use, passing) => move(kind.touch!.put(lever, position, touch, use, facts), passing),
    clear: (passing) => move(kind.clear(lever, position, facts), passing),
  };
}
