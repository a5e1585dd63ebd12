import { type Board, datasetsOf } from '@sorvik/core/board/board';
import type { Locale } from '@sorvik/core/messages/locale';
import { useEffect, useState } from 'react';
import { shallowEqual } from 'react-redux';
import { api } from '../app/api';
import { useAppSelector } from '../app/store';
import { say } from '../ui/say';

/** A refresh that is not there so long after it was due is late, ms. */
const grace = 5 * 60_000;

/** Whether that time is past; looked at again every minute. */
function useIsLate(due: string | undefined): boolean {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    if (due === undefined) return;
    setNow(Date.now());
    const timer = setInterval(() => setNow(Date.now()), 60_000);
    return () => clearInterval(timer);
  }, [due]);
  return due !== undefined && Date.parse(due) + grace < now;
}

/** Of when the data of a board is, once it has come more than once, and whether more should have come by now. */
export function DataStamp({ board, locale }: { board: Board; locale: Locale }) {
  const known = useAppSelector(
    (state) => datasetsOf(board).flatMap((id) => api.endpoints.dataset.select(id)(state).data ?? []),
    shallowEqual,
  );
  const due = known.flatMap(({ schedule }) => schedule?.nextAt ?? []).sort()[0];
  const late = useIsLate(due);
  const times = known.filter(({ data }) => data && data.versions > 1).map(({ data }) => data!.at);
  // Of several datasets all are at least as young as the oldest.
  const oldest = times.sort()[0];
  if (oldest === undefined) return null;
  const text = (iso: string) =>
    new Intl.DateTimeFormat(locale.tag, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));
  return (
    <p className="sv-data-stamp" data-part="data-stamp">
      <time dateTime={oldest}>{say(locale, 'show.dataOf', { time: text(oldest) })}</time>
      {late && due && <strong>{say(locale, 'show.dataLate', { time: text(due) })}</strong>}
    </p>
  );
}
