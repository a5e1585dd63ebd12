import type { AppStore } from '../app/store';
import { nobodyFollowed, type OtherAuthor, othersSeen, revisionTold } from './authors-slice';

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
  /** Unheard, it is said with the next chart. */
  const say = () => {
    said = chartNow();
    void fetch(`/api/boards/${board}/authors`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ tab, chart: said }),
    }).catch(() => {});
  };
  const open = () => {
    if (source || document.visibilityState !== 'visible') return;
    source = new EventSource(`/api/boards/${board}/changes?tab=${tab}`);
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
    source?.close();
    source = null;
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
  open();
  return () => {
    unsubscribe();
    document.removeEventListener('visibilitychange', look);
    close();
  };
}
