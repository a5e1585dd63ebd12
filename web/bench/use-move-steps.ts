import { useEffect } from 'react';
import { useAppStore } from '../app/store';
import { moveMade } from '../board/board-slice';

/** Moves of one lever that follow each other within this time, ms, are one step. */
const oneStep = 1000;

/** On the bench a finished move of a lever can be taken back like everything else: a drag is one step. */
export function useMoveSteps(): void {
  const store = useAppStore();
  useEffect(() => {
    let last = store.getState().positions;
    let lastAt = 0;
    return store.subscribe(() => {
      const { positions, board } = store.getState();
      if (positions.moves === last.moves) {
        last = positions;
        return;
      }
      const before = last.committed;
      const now = performance.now();
      const joins = positions.lever !== null && positions.lever === last.lever && now - lastAt < oneStep;
      last = positions;
      lastAt = now;
      if (!board.document) return;
      const name = board.document.levers.find(({ id }) => id === positions.lever)?.name;
      store.dispatch(moveMade({ label: name ? `${name} moved` : 'levers reset', positions: before, joins }));
    });
  }, [store]);
}
