import { type Board, chartOf } from '@sorvik/core/board/board';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { useEffect } from 'react';
import { useMeQuery } from '../app/people-api';
import { useAppDispatch, useAppSelector, useAppStore } from '../app/store';
import { chartChosen } from '../board/board-slice';
import { boardWords } from '../board/board-words';
import { tell } from '../ui/tell';

/** Lets those who work at one board see each other, where people sign in. */
export function useAuthors(board: string | null): void {
  const store = useAppStore();
  const { data: me } = useMeQuery();
  const isTeam = me?.person !== undefined;
  useEffect(() => {
    if (!isTeam || board === null) return;
    let end = () => {};
    let over = false;
    void import('../board/authors').then(
      ({ followAuthors }) => {
        if (!over) end = followAuthors(store, board);
      },
      () => {},
    );
    return () => {
      over = true;
      end();
    };
  }, [isTeam, board, store]);
}

/** So many are named; the others are counted. */
const named = 3;

/** Who else is here, and at which chart: pressed, it is taken in hand. */
export function Others({ board }: { board: Board }) {
  const dispatch = useAppDispatch();
  const others = useAppSelector((state) => state.authors.others);
  const words = boardWords(board, undefined);
  if (!others.length) return null;
  return (
    <p className="sv-others" aria-live="polite">
      {tell('bench.others.here')}{' '}
      {others.slice(0, named).map(({ name, chart: id }) => {
        const chart = id === null ? undefined : chartOf(board, id);
        return chart ? (
          <button
            key={name}
            type="button"
            className="btn btn-sm btn-quiet"
            onClick={() => dispatch(chartChosen(chart.id))}
          >
            {tell('bench.others.at', { name, chart: chartTitle(chart, words) })}
          </button>
        ) : (
          <span key={name}>{name}</span>
        );
      })}
      {others.length > named && tell('bench.others.more', { n: others.length - named })}
    </p>
  );
}

/** The names of those who work at a chart just now, on the chart. */
export function AtChart({ chart }: { chart: string }) {
  const others = useAppSelector((state) => state.authors.others);
  const names = others.filter((each) => each.chart === chart).map(({ name }) => name);
  if (!names.length) return null;
  return (
    <span className="sv-at-chart" aria-hidden="true">
      {names.join(', ')}
    </span>
  );
}
