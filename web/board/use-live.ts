import { type Board, datasetsOf } from '@sorvik/core/board/board';
import { whenIdle } from '@sorvik/view/when-idle';
import { useEffect } from 'react';
import { useAppStore } from '../app/store';

/** Keeps an open board in step with its data. What it takes is fetched once nothing is more urgent. */
export function useLive(board: Board | undefined): void {
  const store = useAppStore();
  const followed = board ? datasetsOf(board).toSorted().join('\n') : '';
  useEffect(() => {
    if (!followed) return;
    let end = () => {};
    let over = false;
    const callOff = whenIdle(() => {
      import('../app/live').then(
        ({ followDatasets }) => {
          if (!over) end = followDatasets(store, followed.split('\n'));
        },
        () => {},
      );
    });
    return () => {
      over = true;
      callOff();
      end();
    };
  }, [followed, store]);
}
