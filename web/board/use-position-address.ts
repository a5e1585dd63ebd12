import { positionsFromQuery, positionsToQuery } from '@sorvik/core/levers/positions';
import type { Lever } from '@sorvik/core/levers/registry';
import { useEffect, useLayoutEffect } from 'react';
import { useAppStore } from '../app/store';
import { positionsSet } from './positions-slice';

const delay = 200;

/**
 * Keeps lever positions and the page's address in step: read from it when the board is opened, written to it soon
 * after each move, so that a reload or a link brings back what was seen.
 */
export function usePositionAddress(boardId: string | null, levers: readonly Lever[] | undefined): void {
  const store = useAppStore();
  // biome-ignore lint/correctness/useExhaustiveDependencies: positions are read once per board, not whenever a lever is edited
  useLayoutEffect(() => {
    if (!boardId || !levers) return;
    store.dispatch(positionsSet(positionsFromQuery(levers, new URLSearchParams(location.search))));
    return () => void store.dispatch(positionsSet({}));
  }, [boardId, store]);

  useEffect(() => {
    if (!boardId || !levers) return;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const write = () => {
      const query = positionsToQuery(levers, store.getState().positions).toString();
      const address = query ? `?${query}` : location.pathname;
      if (`?${query}` !== location.search && !(query === '' && location.search === ''))
        history.replaceState(history.state, '', address);
    };
    let last = store.getState().positions;
    const unsubscribe = store.subscribe(() => {
      const { positions } = store.getState();
      if (positions === last) return;
      last = positions;
      clearTimeout(timer);
      timer = setTimeout(write, delay);
    });
    const onLeave = () => write();
    window.addEventListener('pagehide', onLeave);
    return () => {
      clearTimeout(timer);
      unsubscribe();
      window.removeEventListener('pagehide', onLeave);
    };
  }, [boardId, levers, store]);
}
