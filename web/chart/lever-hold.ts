import type { Gift, GiftUse, LeverFacts } from '@sorvik/core/levers/lever-kind';
import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { type Facts, standingOf } from '@sorvik/core/levers/standing';
import type { AppStore } from '../app/store';
import { leverMoved } from '../board/positions-slice';

/** A lever in the hand of a gesture: where it stands this moment, and how to move it. */
export interface LeverHold {
  lever: Lever;
  position: unknown;
  facts: LeverFacts | undefined;
  move(position: unknown, passing?: boolean): void;
  put(gift: Gift, use: GiftUse, passing?: boolean): void;
  clear(passing?: boolean): void;
}

export function holdOf(lever: Lever, store: AppStore, facts: Facts): LeverHold {
  const kind = kindOf(lever);
  const known = facts[lever.id];
  const { position } = standingOf(lever, store.getState().positions.now, facts);
  const move = (next: unknown, passing = false) =>
    void store.dispatch(leverMoved({ lever: lever.id, position: next, passing }));
  return {
    lever,
    position,
    facts: known,
    move,
    put: (gift, use, passing) => move(kind.touch!.put(lever, position, gift, use, known), passing),
    clear: (passing) => move(kind.clear(lever, position, known), passing),
  };
}
