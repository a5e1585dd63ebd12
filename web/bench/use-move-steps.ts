import { useEffect } from 'react';
import { useAppStore } from '../app/store';
import { moveMade } from '../board/board-slice';
import { tell } from '../ui/tell';

/** A wheel that has rested so long, ms, begins anew. */
const wheelRest = 400;

/** Counts gestures: a press of the pointer, a key until it is let go, a turn of the wheel. */
function gestureCount() {
  let count = 0;
  let wheeledAt = Number.NEGATIVE_INFINITY;
  const listeners: [keyof WindowEventMap, (event: Event) => void][] = [
    ['pointerdown', () => count++],
    ['keydown', (event) => (event as KeyboardEvent).repeat || count++],
    [
      'wheel',
      () => {
        const now = performance.now();
        if (now - wheeledAt > wheelRest) count++;
        wheeledAt = now;
      },
    ],
  ];
  for (const [name, listen] of listeners) addEventListener(name, listen, { capture: true, passive: true });
  return {
    now: () => count,
    stop() {
      for (const [name, listen] of listeners) removeEventListener(name, listen, { capture: true });
    },
  };
}

/** On the bench a finished move of a lever can be taken back like everything else: a gesture is one step. */
export function useMoveSteps(): void {
  const store = useAppStore();
  useEffect(() => {
    let last = store.getState().positions;
    const gestures = gestureCount();
    let lastGesture = -1;
    const unsubscribe = store.subscribe(() => {
      const { positions, board } = store.getState();
      if (positions.moves === last.moves) {
        last = positions;
        return;
      }
      const before = last.committed;
      const gesture = gestures.now();
      const joins = positions.lever !== null && positions.lever === last.lever && gesture === lastGesture;
      last = positions;
      lastGesture = gesture;
      if (!board.document) return;
      const name = board.document.levers.find(({ id }) => id === positions.lever)?.name;
      store.dispatch(
        moveMade({
          label: name
            ? tell('bench.useMoveSteps.nameMoved', { name })
            : tell('bench.useMoveSteps.leversReset'),
          positions: before,
          joins,
        }),
      );
    });
    return () => {
      unsubscribe();
      gestures.stop();
    };
  }, [store]);
}
