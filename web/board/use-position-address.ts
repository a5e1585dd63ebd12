import { positionsFromQuery, positionsToQuery } from '@sorvik/core/levers/positions';
import type { Lever } from '@sorvik/core/levers/registry';
import type { Facts } from '@sorvik/core/levers/settled-positions';
import { showAddress, showQuery } from '@sorvik/core/levers/show-address';
import { useEffect, useLayoutEffect, useRef } from 'react';
import { useLocation, useNavigate, useNavigationType } from 'react-router';
import { useAppStore } from '../app/store';
import { visit } from '../app/visit';
import { positionsSet } from './positions-slice';

/** Moves of one lever that follow each other within this time, ms, are one step back. */
const oneStep = 1000;
/** How long after a move it is written, ms. */
const afterMove = 150;

/** Where levers stand in an address. */
const saidIn = (search: string) => showAddress(new URLSearchParams(search)).levers;

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
export function usePositionAddress({ boardId, levers, facts, steps: asSteps }: Place): void {
  const store = useAppStore();
  const navigate = useNavigate();
  const { search } = useLocation();
  const type = useNavigationType();
  const known = useRef(facts);
  known.current = facts;

  // biome-ignore lint/correctness/useExhaustiveDependencies: positions are read once per board, not whenever a lever is edited
  useLayoutEffect(() => {
    if (!boardId || !levers) return;
    store.dispatch(positionsSet(positionsFromQuery(levers, saidIn(location.search))));
    return () => void store.dispatch(positionsSet({ positions: {} }));
  }, [boardId, store]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: only a step back or forward sets positions, not an edited lever
  useEffect(() => {
    if (!boardId || !levers || type !== 'POP' || visit.embedded) return;
    const { committed } = store.getState().positions;
    const query = saidIn(search);
    if (positionsToQuery(levers, committed, known.current).toString() === query.toString()) return;
    store.dispatch(positionsSet(positionsFromQuery(levers, query)));
  }, [search, type]);

  useEffect(() => {
    // In a frame each step would be one of the page around it.
    if (!boardId || !levers || visit.embedded) return;
    let last = store.getState().positions;
    let lastAt = 0;
    let steps = 0;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const write = () => {
      clearTimeout(timer);
      timer = undefined;
      const query = showQuery(positionsToQuery(levers, last.committed, known.current), visit).toString();
      const replace = steps === 0;
      steps = 0;
      if (query === new URLSearchParams(location.search).toString()) return;
      const address = { pathname: location.pathname, search: query && `?${query}` };
      void navigate(address, { replace, preventScrollReset: true });
    };
    const unsubscribe = store.subscribe(() => {
      const { positions } = store.getState();
      if (positions.moves === last.moves) {
        last = positions;
        return;
      }
      const now = performance.now();
      const continued = positions.lever !== null && positions.lever === last.lever && now - lastAt < oneStep;
      // Another lever's move is a step of its own: the one before it is written first.
      if (!continued && timer !== undefined) write();
      last = positions;
      lastAt = now;
      if (asSteps && !continued) steps++;
      // Not in the frame of the move itself, which belongs to the charts.
      clearTimeout(timer);
      timer = setTimeout(write, afterMove);
    });
    window.addEventListener('pagehide', write);
    return () => {
      unsubscribe();
      clearTimeout(timer);
      window.removeEventListener('pagehide', write);
    };
  }, [boardId, levers, store, navigate, asSteps]);
}
