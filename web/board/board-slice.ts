import { createSlice, type PayloadAction, type ThunkAction, type UnknownAction } from '@reduxjs/toolkit';
import type { SavedBoard } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { english } from '@sorvik/core/messages/locale';
import { original, produce } from 'immer';
import { say } from '../ui/say';
import { type PositionsState, positionsSet } from './positions-slice';

export type SaveStatus = 'saved' | 'waiting' | 'saving' | 'unreachable' | 'refused';

/**
 * One thing that was done, with the document from before it; documents share all that did not change. A lever's move
 * is a step too: then the positions from before it are there, and the document is the same.
 */
export interface Step {
  label: string;
  document: Board;
  positions?: Positions;
}

export interface BoardState {
  id: string | null;
  /** The revision on the server that `saved` is. */
  revision: number;
  saved: Board | null;
  /** The revision that viewers see; null while they see the draft. */
  published: number | null;
  /** The board of which this is a copy to try something on. */
  scratchOf: string | null;
  document: Board | null;
  past: Step[];
  future: Step[];
  /** The document from before the editor that is open; Esc returns to it. */
  before: Board | null;
  /** The chart in hand. */
  chart: string | undefined;
  status: SaveStatus;
  /** Why the server did not take the last change. */
  refusal: string | undefined;
  /** What somebody else saved meanwhile: nothing is sent until it is decided what to keep. */
  theirs: SavedBoard | null;
  notice: string | undefined;
}

const closed: BoardState = {
  id: null,
  revision: 0,
  saved: null,
  published: null,
  scratchOf: null,
  document: null,
  past: [],
  future: [],
  before: null,
  chart: undefined,
  status: 'saved',
  refusal: undefined,
  theirs: null,
  notice: undefined,
};

const keepChartInHand = (state: BoardState) => {
  const charts = state.document?.charts ?? [];
  if (!charts.some((chart) => chart.id === state.chart)) state.chart = charts[0]?.id;
};

/** The step that leads back from a step: it holds what is there now. */
const turned = ({ label, positions }: Step, document: Board, now: Positions | undefined): Step => ({
  label,
  document,
  ...(positions && now ? { positions: now } : {}),
});

/** Makes `document` the present one and a step of the way there. `from` and `document` are never drafts: they are compared. */
const commit = (state: BoardState, label: string, from: Board, document: Board) => {
  if (document === from) return;
  state.past.push({ label, document: from });
  state.future = [];
  state.document = document;
  keepChartInHand(state);
};

/** Takes back what an editor did as a whole. What was tried can be had again, as anything that was undone. */
function dropTry(state: BoardState, label: string): void {
  const { before, document } = original(state)!;
  if (!before || !document) return;
  state.document = before;
  state.before = null;
  if (document !== before) state.future.push({ label, document });
  keepChartInHand(state);
}

/** The board on the bench: its document, what can be undone, and how far it is saved. */
export const boardSlice = createSlice({
  name: 'board',
  initialState: closed,
  reducers: {
    boardOpened: (_state, { payload }: PayloadAction<SavedBoard>) => ({
      ...closed,
      id: payload.id,
      revision: payload.revision,
      saved: payload.document,
      published: payload.published,
      scratchOf: payload.scratchOf,
      document: payload.document,
      chart: payload.document.charts[0]?.id,
    }),
    /** What was done before the page was loaded anew can be undone still. */
    stepsFound: (state, { payload }: PayloadAction<Pick<BoardState, 'past' | 'future'>>) => {
      state.past = payload.past;
      state.future = payload.future;
    },
    boardClosed: () => closed,
    edited: (state, { payload }: PayloadAction<{ label: string; document: Board }>) => {
      commit(state, payload.label, original(state)!.document!, payload.document);
    },
    /** An editor opens: what it does can be taken back as a whole. */
    tryBegun: (state) => {
      state.before ??= state.document;
    },
    tried: (state, { payload }: PayloadAction<Board>) => {
      state.document = payload;
      keepChartInHand(state);
    },
    tryKept: (state, { payload: label }: PayloadAction<string>) => {
      const { before, document } = original(state)!;
      state.before = null;
      if (before && document) commit(state, label, before, document);
    },
    tryDropped: (state, { payload: label }: PayloadAction<string>) => dropTry(state, label),
    /** A lever was moved: not a change of the board, but something that can be taken back. */
    moveMade: (
      state,
      { payload }: PayloadAction<{ label: string; positions: Positions; joins: boolean }>,
    ) => {
      const last = state.past.at(-1);
      state.future = [];
      // Moves of one lever that follow each other closely are one step, which begins where the first one did.
      if (payload.joins && last?.positions && last.label === payload.label) return;
      const { label, positions } = payload;
      state.past.push({ label, document: original(state)!.document!, positions });
    },
    undone: (state, { payload }: PayloadAction<Positions | undefined>) => {
      // While something is being tried, that is what is taken back.
      if (state.before) return dropTry(state, say(english, 'step.tried'));
      const step = state.past.pop();
      if (!step) return;
      state.future.push(turned(step, state.document!, payload));
      state.document = step.document;
      keepChartInHand(state);
    },
    redone: (state, { payload }: PayloadAction<Positions | undefined>) => {
      if (state.before) return;
      const step = state.future.pop();
      if (!step) return;
      state.past.push(turned(step, state.document!, payload));
      state.document = step.document;
      keepChartInHand(state);
    },
    chartChosen: (state, { payload }: PayloadAction<string>) => {
      state.chart = payload;
    },
    statusSet: (state, { payload }: PayloadAction<{ status: SaveStatus; refusal?: string }>) => {
      state.status = payload.status;
      state.refusal = payload.refusal;
    },
    savedAs: (state, { payload }: PayloadAction<{ revision: number; document: Board }>) => {
      state.revision = payload.revision;
      state.saved = payload.document;
      state.status = 'saved';
      state.refusal = undefined;
    },
    /** Somebody saved another revision while there are changes here. */
    theirsFound: (state, { payload }: PayloadAction<SavedBoard>) => {
      state.theirs = payload;
      state.status = 'waiting';
    },
    /** Their document takes the place of the one here, which can be got back by undo. */
    theirsTaken: (state, { payload }: PayloadAction<{ board: SavedBoard; notice?: string }>) => {
      const { board, notice } = payload;
      state.revision = board.revision;
      state.saved = board.document;
      state.published = board.published;
      state.before = null;
      commit(state, say(english, 'step.elsewhere'), original(state)!.document!, board.document);
      state.theirs = null;
      state.status = 'saved';
      state.notice = notice;
    },
    /** What was changed here and there is joined: steps back lead to what was here, with what came from there. */
    theirsJoined: (
      state,
      {
        payload,
      }: PayloadAction<
        Pick<BoardState, 'document' | 'past' | 'future'> & { board: SavedBoard; notice?: string }
      >,
    ) => {
      const { board, document, past, future, notice } = payload;
      Object.assign(state, { document, past, future, notice });
      state.revision = board.revision;
      state.saved = board.document;
      state.published = board.published;
      state.status = document === board.document ? 'saved' : 'waiting';
      keepChartInHand(state);
    },
    /** What is here goes on top of theirs; theirs stays in the board's versions. */
    mineKept: (state) => {
      if (!state.theirs) return;
      state.revision = state.theirs.revision;
      state.saved = state.theirs.document;
      state.theirs = null;
    },
    publishedSet: (state, { payload }: PayloadAction<number>) => {
      state.published = payload;
    },
    noticeClosed: (state) => {
      state.notice = undefined;
    },
  },
});

export const {
  boardOpened,
  stepsFound,
  boardClosed,
  edited,
  tryBegun,
  tried,
  tryKept,
  tryDropped,
  moveMade,
  undone,
  redone,
  chartChosen,
  statusSet,
  savedAs,
  theirsFound,
  theirsTaken,
  theirsJoined,
  mineKept,
  publishedSet,
  noticeClosed,
} = boardSlice.actions;

/** What is dispatched to change the board: of the store it knows the board and where the levers stand. */
type BoardThunk = ThunkAction<void, { board: BoardState; positions: PositionsState }, unknown, UnknownAction>;

/** Changes the board: as a step that can be undone, or as part of the try that is under way. */
export const edit =
  (label: string, recipe: (board: Board) => void): BoardThunk =>
  (dispatch, getState) => {
    const { document, before } = getState().board;
    if (!document) return;
    const next = produce(document, recipe);
    if (next === document) return;
    dispatch(before ? tried(next) : edited({ label, document: next }));
  };

/** Takes back the last step, or does it again: what it did to the board, or where it moved levers. */
const turn =
  (which: 'past' | 'future', act: typeof undone | typeof redone) =>
  (): BoardThunk =>
  (dispatch, getState) => {
    const { board, positions } = getState();
    const step = board.before ? undefined : board[which].at(-1);
    dispatch(act(positions.committed));
    if (step?.positions) dispatch(positionsSet({ positions: step.positions }));
  };
export const undo = turn('past', undone);
export const redo = turn('future', redone);
