import type { SavedBoard } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import { mergedBoards } from '@sorvik/core/edit/merge-boards';
import { createPatch } from 'rfc6902';
import { api, problemText } from '../app/api';
import { editingApi } from '../app/editing-api';
import type { AppStore } from '../app/store';
import { tell } from '../ui/tell';
import { type Step, savedAs, statusSet, theirsFound, theirsJoined, theirsTaken } from './board-slice';

const delay = 500;
const retryDelay = 3000;
const mostUnanswered = 50;

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
  /** The revision of somebody else that was looked for last. */
  let lookedFor = 0;
  let last = state().document;
  /**
   * What was sent against the revision in hand and got no answer: each of these may have arrived. Sent again under its
   * name, the server does not do it twice.
   */
  let unanswered: { base: number; document: Board; key: string }[] = [];
  const nameOf = (base: number, document: Board): string => {
    unanswered = unanswered.filter((each) => each.base === base).slice(-mostUnanswered);
    const known = unanswered.find((each) => each.document === document);
    if (known) return known.key;
    const key = crypto.randomUUID();
    unanswered.push({ base, document, key });
    return key;
  };

  const isDirty = () => {
    const { document, saved, before } = state();
    return (before ?? document) !== saved;
  };
  const later = (ms: number) => {
    clearTimeout(timer);
    timer = setTimeout(save, ms);
  };
  const fetchCurrent = (id: string) =>
    dispatch(api.endpoints.board.initiate(id, { forceRefetch: true, subscribe: false }));

  /** The server keeps this revision now. What was changed while it was on its way is saved next. */
  const kept = (revision: number, document: Board) => {
    unanswered = [];
    dispatch(savedAs({ revision, document }));
    if (!isDirty()) return;
    dispatch(statusSet({ status: 'waiting' }));
    later(delay);
  };

  const failed = (error: unknown) => {
    const { status } = error as { status?: unknown };
    const passes = status === 'FETCH_ERROR' || status === 503 || status === 507 || status === 500;
    dispatch(statusSet({ status: passes ? 'unreachable' : 'refused', refusal: problemText(error) }));
    if (passes) later(retryDelay);
  };

  /** Somebody else has saved meanwhile: what does not touch what was changed here is joined, else it is asked. */
  function meet(current: SavedBoard) {
    const { saved, document, before } = state();
    const found = before || !saved || !document ? null : joinedWith(current, document);
    if (!found) {
      dispatch(theirsFound(current));
      return;
    }
    unanswered = [];
    dispatch(
      theirsJoined({
        board: current,
        document: found,
        ...carried(current),
        notice: tell('board.autosave.joined'),
      }),
    );
    later(0);
  }

  /** A state of here with what is there; null where both have changed the same. */
  const joinedWith = (current: SavedBoard, mine: Board): Board | null =>
    mergedBoards(state().saved!, mine, current.document);

  /** The steps that can be taken back or done again, with what others have changed since. */
  function carried(current: SavedBoard) {
    const { past, future } = state();
    const carry = (step: Step): Step => ({
      ...step,
      document: joinedWith(current, step.document) ?? step.document,
    });
    return { past: past.map(carry), future: future.map(carry) };
  }

  /** Takes over what was saved by somebody who works at the board too: each sees the other's changes come. */
  function comeAlong(current: SavedBoard) {
    dispatch(theirsJoined({ board: current, document: current.document, ...carried(current) }));
  }

  /** Looks at what the server has before anybody is said to have changed it: a save whose answer was lost is one's own. */
  async function compare(id: string) {
    busy = true;
    const { data: current, error } = await fetchCurrent(id);
    busy = false;
    const { id: now, revision, saved, document } = state();
    if (now !== id || !document || !saved) return;
    if (!current) return failed(error);
    const own = [saved, document, ...unanswered.map((each) => each.document)].find(
      (each) => !createPatch(current.document, each).length,
    );
    if (own) kept(current.revision, own);
    else if (current.revision > revision) meet(current);
  }

  async function save() {
    const { id, revision, saved, document, before, theirs } = state();
    if (busy || theirs || !id || !saved || !document || before) return;
    const patch = document === saved ? [] : createPatch(saved, document);
    if (!patch.length) {
      // What was changed has been taken back. It may have arrived before.
      if (unanswered.length) await compare(id);
      else if (document !== saved || state().status !== 'saved') dispatch(savedAs({ revision, document }));
      return;
    }
    busy = true;
    const key = nameOf(revision, document);
    dispatch(statusSet({ status: 'saving' }));
    const { data, error } = await dispatch(
      editingApi.endpoints.patchBoard.initiate({ id, revision, patch, key }),
    );
    busy = false;
    if (state().id !== id) return;
    if (data) {
      kept(data.revision, document);
      channel.postMessage({ id, revision: data.revision });
    } else if ((error as { status?: unknown }).status === 412) await compare(id);
    else failed(error);
  }

  /** Looks whether somebody saved another revision; takes it over unless there are changes here. */
  async function lookForOthers(take: (current: SavedBoard) => void = takeOver) {
    const { id, revision, theirs } = state();
    if (!id || theirs || busy || isDirty()) return;
    const { data: current } = await fetchCurrent(id);
    if (
      !current ||
      state().id !== id ||
      current.revision <= state().revision ||
      current.revision <= revision ||
      busy
    )
      return;
    if (isDirty()) meet(current);
    else take(current);
  }

  function takeOver(board: SavedBoard) {
    dispatch(theirsTaken({ board, notice: tell('board.autosave.someoneElseChangedThisBoard') }));
  }

  /** Somebody else is said to have saved: that is looked at once nothing is being tried or sent here. */
  function hearOfOthers() {
    const { revision: told } = store.getState().authors;
    const { revision, before, id } = state();
    if (told <= lookedFor || told <= revision || before || busy || isDirty() || !id) return;
    lookedFor = told;
    void lookForOthers(comeAlong);
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
    hearOfOthers();
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
