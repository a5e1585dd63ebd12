import type { AppStore } from '../app/store';
import { nobodyFollowed, type OtherAuthor, othersSeen, revisionTold } from './authors-slice';

/** The server forgets whoever says nothing for 50 s. */
const saidAgain = 20_000;

/** Whoever steps through charts is not said to be at each of them, ms. */
const settled = 400;

/** A connection that was refused is tried again after so long, ms. */
const pause = 5000;

/**
 * Says that an author works at a board and at which chart, and hears who else does and what they save, while the page is in
 * sight. Gives what ends it.
 */
export function followAuthors(store: AppStore, board: string): () => void {
  const tab = crypto.randomUUID();
  const { dispatch } = store;
  const chartNow = () => store.getState().board.chart ?? null;
  let source: EventSource | null = null;
  let said: string | null | undefined;
  let saying: ReturnType<typeof setTimeout> | undefined;
  let reopening: ReturnType<typeof setTimeout> | undefined;
  const send = (what: string, body: object) =>
    void fetch(`/api/boards/${board}/authors${what}`, {
      method: 'POST',
      keepalive: true,
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ tab, ...body }),
      // Unheard, it is said again before long.
    }).catch(() => {});
  const say = () => {
    said = chartNow();
    send('', { chart: said });
    clearTimeout(saying);
    saying = setTimeout(say, saidAgain);
  };
  const open = () => {
    if (source || document.visibilityState !== 'visible') return;
    source = new EventSource(`/api/boards/${board}/changes`);
    source.addEventListener('open', say);
    source.addEventListener('board', ({ data }) => dispatch(revisionTold(JSON.parse(data).revision)));
    source.addEventListener('authors', ({ data }) => dispatch(othersSeen(JSON.parse(data) as OtherAuthor[])));
    source.addEventListener('error', () => {
      dispatch(othersSeen([]));
      if (source?.readyState !== EventSource.CLOSED) return;
      source = null;
      reopening = setTimeout(open, pause);
    });
  };
  const close = () => {
    clearTimeout(reopening);
    clearTimeout(saying);
    if (!source) return;
    source.close();
    source = null;
    send('/gone', {});
    dispatch(nobodyFollowed());
  };
  const look = () => (document.visibilityState === 'visible' ? open() : close());
  const unsubscribe = store.subscribe(() => {
    if (!source || said === undefined || said === chartNow()) return;
    said = chartNow();
    clearTimeout(saying);
    saying = setTimeout(say, settled);
  });
  document.addEventListener('visibilitychange', look);
  addEventListener('pagehide', close);
  open();
  return () => {
    unsubscribe();
    document.removeEventListener('visibilitychange', look);
    removeEventListener('pagehide', close);
    close();
  };
}
