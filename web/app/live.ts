import { api } from './api';
import type { AppStore } from './store';

/** While a lever is dragged nothing is asked anew: so long it is waited before that is looked at again, ms. */
const untilStill = 300;

/**
 * Follows datasets while the page is in sight: those that have changed are asked for anew, and with them what charts and
 * levers show. Out of sight it lets go of its connection, of which a browser has few; back in sight it catches up.
 * Gives what ends it.
 */
export function followDatasets(store: AppStore, datasets: readonly string[]): () => void {
  let source: EventSource | null = null;
  let waiting: ReturnType<typeof setTimeout> | undefined;
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
      if (data && data.version !== version)
        void store.dispatch(api.endpoints.dataset.initiate(id, { subscribe: false, forceRefetch: true }));
    }
    changed.clear();
  };
  const open = () => {
    if (source || document.visibilityState !== 'visible') return;
    const query = new URLSearchParams(datasets.map((id) => ['dataset', id]));
    source = new EventSource(`/api/changes?${query}`);
    source.addEventListener('datasets', ({ data }) => {
      for (const [id, version] of Object.entries(JSON.parse(data) as Record<string, number | null>))
        changed.set(id, version);
      askAnew();
    });
  };
  const close = () => {
    source?.close();
    source = null;
  };
  const look = () => (document.visibilityState === 'visible' ? open() : close());
  document.addEventListener('visibilitychange', look);
  open();
  return () => {
    clearTimeout(waiting);
    document.removeEventListener('visibilitychange', look);
    close();
  };
}
