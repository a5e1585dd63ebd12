import type { Board } from '@sorvik/core/board/board';
import type { SavedBoard } from '@sorvik/core/exchange';
import { createPatch } from 'rfc6902';
import { api, problemText } from '../app/api';
import type { AppStore } from '../app/store';
import { savedAs, statusSet, theirsFound, theirsTaken } from './board-slice';

const delay = 500;
const retryDelay = 3000;

/**
 * Saves the open board soon after each change, as a JSON Patch against the revision it was made to. Other tabs of the
 * same browser are told, and take over what they have no changes against.
 * Returns `stop`, which sends what is still waiting.
 */
export function startAutosave(store: AppStore): () => void {
  const { dispatch } = store;
  const state = () => store.getState().board;
  const channel = new BroadcastChannel('sorvik-boards');
  let timer: ReturnType<typeof setTimeout> | undefined;
  let busy = false;
  let last = state().document;
  /** The save that was sent last: sent again under the same name, the server does not do it twice. */
  let sent: { base: number; document: Board; key: string } | null = null;
  const nameOf = (base: number, document: Board): string => {
    if (sent?.base !== base || sent.document !== document)
      sent = { base, document, key: crypto.randomUUID() };
    return sent.key;
  };

  const isDirty = () => {
    const { document, saved, before } = state();
    return (before ?? document) !== saved;
  };
  const later = (ms: number) => {
    clearTimeout(timer);
    timer = setTimeout(save, ms);
  };
  const fetchCurrent = async (id: string): Promise<SavedBoard | undefined> =>
    (await dispatch(api.endpoints.board.initiate(id, { forceRefetch: true, subscribe: false }))).data;

  async function save() {
    const { id, revision, saved, document, before, theirs } = state();
    if (busy || theirs || !id || !saved || !document || before) return;
    if (document === saved) {
      // What was changed has been taken back before it was sent.
      if (state().status === 'waiting') dispatch(savedAs({ revision, document }));
      return;
    }
    const patch = createPatch(saved, document);
    if (!patch.length) {
      dispatch(savedAs({ revision, document }));
      return;
    }
    busy = true;
    // What was sent last may have arrived, and only its answer was lost.
    const arrived = sent?.document;
    const key = nameOf(revision, document);
    dispatch(statusSet({ status: 'saving' }));
    const result = await dispatch(api.endpoints.patchBoard.initiate({ id, revision, patch, key }));
    busy = false;
    if (state().id !== id) return;
    if (result.data) {
      dispatch(savedAs({ revision: result.data.revision, document }));
      channel.postMessage({ id, revision: result.data.revision });
      // What was changed while that was on its way is not saved yet.
      if (isDirty()) {
        dispatch(statusSet({ status: 'waiting' }));
        later(delay);
      }
      return;
    }
    const { status } = result.error as { status?: unknown };
    if (status === 412) {
      const current = await fetchCurrent(id);
      if (!current || state().id !== id) return;
      const own = [document, arrived].find((each) => each && !createPatch(current.document, each).length);
      if (own) {
        dispatch(savedAs({ revision: current.revision, document: own }));
        if (isDirty()) later(delay);
      } else dispatch(theirsFound(current));
    } else if (status === 'FETCH_ERROR' || status === 503 || status === 507 || status === 500) {
      dispatch(statusSet({ status: 'unreachable' }));
      later(retryDelay);
    } else dispatch(statusSet({ status: 'refused', refusal: problemText(result.error) }));
  }

  /** Looks whether somebody saved another revision; takes it over unless there are changes here. */
  async function lookForOthers() {
    const { id, revision, theirs } = state();
    if (!id || theirs || busy || isDirty()) return;
    const current = await fetchCurrent(id);
    if (
      !current ||
      state().id !== id ||
      current.revision <= state().revision ||
      current.revision <= revision ||
      busy
    )
      return;
    if (isDirty()) dispatch(theirsFound(current));
    else
      dispatch(
        theirsTaken({
          board: current,
          notice:
            'This board was changed elsewhere; what you see is the newer state. Undo brings back the one from before.',
        }),
      );
  }

  /** The page goes away: what is waiting is sent in a request that outlives it. */
  function saveOnLeave() {
    const { id, revision, saved, document, before, theirs } = state();
    const leaving = before ?? document;
    if (busy || theirs || !id || !saved || !leaving || leaving === saved) return;
    const patch = createPatch(saved, leaving);
    if (!patch.length) return;
    void fetch(`/api/boards/${id}`, {
      method: 'PATCH',
      keepalive: true,
      headers: {
        'if-match': `"${revision}"`,
        'idempotency-key': nameOf(revision, leaving),
        'content-type': 'application/json-patch+json',
      },
      body: JSON.stringify(patch),
    }).catch(() => {});
  }

  const unsubscribe = store.subscribe(() => {
    const { document, before, theirs } = state();
    if (before || theirs) return;
    if (document === last && state().status !== 'waiting') return;
    last = document;
    if (isDirty() || state().status === 'waiting') {
      if (state().status === 'saved' || state().status === 'refused')
        dispatch(statusSet({ status: 'waiting' }));
      later(delay);
    }
  });
  channel.onmessage = ({ data }) => {
    if (data.id === state().id && data.revision > state().revision) void lookForOthers();
  };
  const onVisible = () => document.visibilityState === 'visible' && void lookForOthers();
  document.addEventListener('visibilitychange', onVisible);
  window.addEventListener('pagehide', saveOnLeave);

  return () => {
    clearTimeout(timer);
    saveOnLeave();
    unsubscribe();
    channel.close();
    document.removeEventListener('visibilitychange', onVisible);
    window.removeEventListener('pagehide', saveOnLeave);
  };
}
