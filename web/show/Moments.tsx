import type { Moment } from '@sorvik/core/board/moment';
import { isAtMoment, positionsOfMoment } from '@sorvik/core/levers/moment-positions';
import type { Lever } from '@sorvik/core/levers/registry';
import { useEffect, useMemo, useState } from 'react';
import { useAppDispatch, useAppSelector, useAppStore } from '../app/store';
import { positionsMoved } from '../board/positions-slice';
import { useKnownFacts } from '../levers/facts-context';
import { useLanguage } from '../ui/language';

interface Props {
  levers: readonly Lever[];
  moments: readonly Moment[];
}

/** Where keys have a meaning of their own. */
const hasOwnKeys = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  target.closest('input, textarea, select, [role=slider], [role=scrollbar], [role=listbox]') !== null;

/** The moments that the author has kept, stepped through with buttons or with the keys of a presenter. */
export function Moments({ levers, moments }: Props) {
  const { say } = useLanguage();
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const { facts } = useKnownFacts();
  const [at, setAt] = useState(() =>
    moments.findIndex((moment) => isAtMoment(levers, moment, store.getState().positions.now, facts)),
  );
  const committed = useAppSelector((state) => state.positions.committed);
  const stands = useMemo(
    () => at >= 0 && isAtMoment(levers, moments[at]!, committed, facts),
    [at, levers, moments, committed, facts],
  );
  const moment = moments[at];
  const go = (to: number) => {
    if (!moments[to]) return;
    setAt(to);
    dispatch(positionsMoved(positionsOfMoment(levers, moments[to])));
  };
  useEffect(() => {
    // A presenter's remote sends these keys; they scroll until the stepping has begun.
    const onKeyDown = (event: KeyboardEvent) => {
      const step = { PageDown: 1, PageUp: -1 }[event.key];
      if (!step || at < 0 || event.defaultPrevented || hasOwnKeys(event.target)) return;
      event.preventDefault();
      go(Math.max(0, Math.min(moments.length - 1, at + step)));
    };
    window.addEventListener('keydown', onKeyDown);
    return () => window.removeEventListener('keydown', onKeyDown);
  });
  return (
    <section className="sv-moments" aria-label={say('moments')}>
      <button
        type="button"
        className="sv-moment-step"
        aria-label={say('moments.previous')}
        disabled={at <= 0}
        onClick={() => go(at - 1)}
      >
        <span aria-hidden="true">‹</span>
      </button>
      <p role="status">
        {moment ? (
          <>
            <span className="sv-moment-count">{say('moments.at', { n: at + 1, all: moments.length })}</span>{' '}
            {moment.caption}
          </>
        ) : (
          <span className="sv-moment-count">{say('moments.toStep', { n: moments.length })}</span>
        )}
      </p>
      {moment && !stands && (
        <button type="button" className="btn btn-link btn-sm" onClick={() => go(at)}>
          {say('moments.back')}
        </button>
      )}
      <button
        type="button"
        className="sv-moment-step"
        aria-label={say(at < 0 ? 'moments.first' : 'moments.next')}
        disabled={at >= moments.length - 1}
        onClick={() => go(at + 1)}
      >
        <span aria-hidden="true">›</span>
      </button>
    </section>
  );
}
