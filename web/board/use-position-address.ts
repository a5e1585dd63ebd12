import { positionsFromQuery, positionsToQuery } from '@sorvik/core/levers/positions';
import type { Lever } from '@sorvik/core/levers/registry';
import type { Facts } from '@sorvik/core/levers/standing';
import { useEffect, useLayoutEffect, useRef } from 'react';
import { useLocation, useNavigate, useNavigationType } from 'react-router';
import { useAppStore } from '../app/store';
import { positionsSet } from './positions-slice';

/** Moves of one lever that follow each other within this time, ms, are one step back. */
const oneStep = 1000;

interface Place {
  boardId: string | null;
  levers: readonly Lever[] | undefined;
  facts: Facts;
  /** Each finished move becomes a step of the browser's history; else the address is only kept right. */
  steps: boolean;
}

/**
 * Keeps lever positions and the page's address in step: read from it when the board is opened or the browser goes back
 * or forward, written to it with each finished move, so that a reload or a link brings back what was seen.
 */
export function usePositionAddress({ boardId, levers, facts, steps }: Place): void {
  const store = useAppStore();
  const navigate = useNavigate();
  const { search } = useLocation();
  const type = useNavigationType();
  const known = useRef(facts);
  known.current = facts;

  // biome-ignore lint/correctness/useExhaustiveDependencies: positions are read once per board, not whenever a lever is edited
  useLayoutEffect(() => {
    if (!boardId || !levers) return;
    store.dispatch(positionsSet(positionsFromQuery(levers, new URLSearchParams(location.search))));
    return () => void store.dispatch(positionsSet({ positions: {} }));
  }, [boardId, store]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: only a step back or forward sets positions, not an edited lever
  useEffect(() => {
    if (!boardId || !levers || type !== 'POP') return;
    const { committed } = store.getState().positions;
    const query = new URLSearchParams(search);
    if (positionsToQuery(levers, committed, known.current).toString() === query.toString()) return;
    store.dispatch(positionsSet(positionsFromQuery(levers, query)));
  }, [search, type]);

  useEffect(() => {
    if (!boardId || !levers) return;
    let last = store.getState().positions;
    let lastAt = 0;
    return store.subscribe(() => {
      const { positions } = store.getState();
      if (positions.moves === last.moves) {
        last = positions;
        return;
      }
      const now = performance.now();
      const continued = positions.lever !== null && positions.lever === last.lever && now - lastAt < oneStep;
      last = positions;
      lastAt = now;
      const query = positionsToQuery(levers, positions.committed, known.current).toString();
      if (query === new URLSearchParams(location.search).toString()) return;
      const address = { pathname: location.pathname, search: query && `?${query}` };
      void navigate(address, { replace: !steps || continued, preventScrollReset: true });
    });
  }, [boardId, levers, store, navigate, steps]);
}
