import { type ClockLever, type ClockPosition, clockAt, clockInstant } from '@sorvik/core/levers/clock';
import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { nextBoundary } from '@sorvik/core/levers/zone-time';
import { useLayoutEffect } from 'react';
import { useAppStore } from '../app/store';
import { clockTicked } from '../board/positions-slice';

/** A timer cannot wait longer than this, ms; and a frame is as short as makes sense. */
const longestWait = 3_600_000;
const shortestWait = 16;

/**
 * Lets the clocks of a board tick: each at the boundary of its own unit, found anew from the real time at every tick so
 * that nothing drifts; asleep while the page is hidden, and right at once when it is shown again.
 */
export function useClocks(levers: readonly Lever[] | undefined): void {
  const store = useAppStore();
  const run = () => {
    const clocks = (levers ?? []).filter((lever) => kindOf(lever).now) as ClockLever[];
    if (!clocks.length) return undefined;
    const told = new Map<string, ClockPosition>();
    const timers = new Map<string, ReturnType<typeof setTimeout>>();
    const positionOf = (clock: ClockLever) =>
      store.getState().positions.now[clock.id] as ClockPosition | undefined;

    const tick = (clock: ClockLever) => {
      clearTimeout(timers.get(clock.id));
      if (document.hidden) return;
      const real = Date.now();
      const before = positionOf(clock);
      // A hold that comes from an address begins to run when it is seen.
      const hold = before?.hold ? { ...before.hold, since: before.hold.since || real } : null;
      const position = clockAt(clock, hold, real);
      if (position.now === before?.now && hold?.since === before.hold?.since) told.set(clock.id, before);
      else {
        told.set(clock.id, position);
        store.dispatch(clockTicked({ lever: clock.id, position }));
      }
      const speed = hold ? hold.speed : 1;
      if (speed === 0) return;
      const shown = clockInstant(clock, hold, real);
      const wait = (nextBoundary(shown, clock.unit, clock.zone) - shown) / speed;
      timers.set(
        clock.id,
        setTimeout(() => tick(clock), Math.max(shortestWait, Math.min(longestWait, wait))),
      );
    };
    const tickAll = () => {
      for (const clock of clocks) tick(clock);
    };
    tickAll();
    // Held, let go, or set back by undo or an address: it is looked at again.
    const unsubscribe = store.subscribe(() => {
      for (const clock of clocks) if (positionOf(clock) !== told.get(clock.id)) tick(clock);
    });
    document.addEventListener('visibilitychange', tickAll);
    return () => {
      unsubscribe();
      document.removeEventListener('visibilitychange', tickAll);
      for (const timer of timers.values()) clearTimeout(timer);
    };
  };
  // Before the first paint, so that it is right already.
  useLayoutEffect(run, [levers, store]);
}
