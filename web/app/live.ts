import { api, untilAskedAgain } from './api';
import type { AppStore } from './store';
import { visit } from './visit';

/** A server that does not answer is asked again after so long, ms; each time it does not, after twice as long, up to the last. */
const pauses = { first: 1000, last: 16_000 };

/** Rows that come all the time are asked about again after so long, ms. */
const untilCaughtUp = 1000;

/** While a lever is dragged nothing is asked anew: so long it is waited before that is looked at again, ms. */
const untilStill = 300;

/**
 * Follows datasets while the page is in sight: those that have changed are asked for anew, and with them what charts and
 * levers show. Out of sight it lets go of its connection, of which a browser has few; back in sight it catches up.
 * Gives what ends it.
 */
export function followDatasets(store: AppStore, datasets: readonly string[]): () => void {
  let isOver = false;
  let source: EventSource | null = null;
  let waiting: ReturnType<typeof setTimeout> | undefined;
  let reopening: ReturnType<typeof setTimeout> | undefined;
  let pause = pauses.first;
  const changed = new Map<string, number | null>();

  const askAnew = () => {
    clearTimeout(waiting);
    const { now, committed } = store.getState().positions;
    if (now !== committed) {
      waiting = setTimeout(askAnew, untilStill);
      return;
    }
    for (const [id, version] of changed) {
      const { data } = api.endpoints.dataset.select(id)(store.getState());
      if (data && (data.version !== version || data.behind)) void find(id, version);
    }
    changed.clear();
  };
  /** Finds out what a dataset is now; where nobody says, it has still to be found out. */
  const find = async (id: string, version: number | null) => {
    const options = { subscribe: false, forceRefetch: true };
    const { data, error } = await store.dispatch(api.endpoints.dataset.initiate(id, options));
    const isGone = (error as { status?: unknown } | undefined)?.status === 404;
    if (isOver || isGone || (!error && !data?.behind)) return;
    if (!changed.has(id)) changed.set(id, version);
    clearTimeout(waiting);
    waiting = setTimeout(askAnew, error ? untilAskedAgain : untilCaughtUp);
  };
  const open = () => {
    if (source || document.visibilityState !== 'visible') return;
    const query = new URLSearchParams(datasets.map((id) => ['dataset', id]));
    // Browsers have no other place for it here.
    if (visit.link !== null) query.set('link', visit.link);
    source = new EventSource(`/api/changes?${query}`);
    source.addEventListener('datasets', ({ data }) => {
      for (const [id, version] of Object.entries(JSON.parse(data) as Record<string, number | null>))
        changed.set(id, version);
      pause = pauses.first;
      askAnew();
    });
    // What may be seen has changed: what is open is asked for anew, and may be gone.
    source.addEventListener('rights', () => {
      store.dispatch(api.util.invalidateTags(['Board', 'Dataset']));
    });
    // A connection that broke off is opened again by the browser, one that was refused is not.
    source.addEventListener('error', () => {
      if (source?.readyState !== EventSource.CLOSED) return;
      close();
      reopening = setTimeout(open, pause);
      pause = Math.min(2 * pause, pauses.last);
    });
  };
  const close = () => {
    clearTimeout(reopening);
    source?.close();
    source = null;
  };
  const look = () => (document.visibilityState === 'visible' ? open() : close());
  document.addEventListener('visibilitychange', look);
  open();
  return () => {
    isOver = true;
    clearTimeout(waiting);
    document.removeEventListener('visibilitychange', look);
    close();
  };
}
