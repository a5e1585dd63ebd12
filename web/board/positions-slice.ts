import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { original } from 'immer';

export interface PositionsState {
  /** Where the levers stand this very moment, in the middle of a drag too. */
  now: Positions;
  /** Where they stood when the last move was finished. */
  committed: Positions;
  /** Counts finished moves, and names the lever of the last one. */
  moves: number;
  lever: string | null;
  /** Levers whose part of the address made no sense. */
  unread: string[];
}

const atStart: PositionsState = { now: {}, committed: {}, moves: 0, lever: null, unread: [] };

/** Where the levers of the open board stand. Moving one never changes the board itself. */
export const positionsSlice = createSlice({
  name: 'positions',
  initialState: atStart,
  reducers: {
    /** All positions at once, from an address or by undo. That is no move. */
    positionsSet: (state, { payload }: PayloadAction<{ positions: Positions; unread?: string[] }>) => ({
      ...state,
      now: payload.positions,
      committed: payload.positions,
      lever: null,
      unread: payload.unread ?? [],
    }),
    /** A lever is moved; `passing` while a drag goes on. A finished move is one step, however it was made. */
    leverMoved: (
      state,
      { payload }: PayloadAction<{ lever: string; position: unknown; passing?: boolean }>,
    ) => {
      const now = { ...state.now, [payload.lever]: payload.position };
      const unread = state.unread.filter((id) => id !== payload.lever);
      if (payload.passing) return { ...state, now, unread };
      return { now, committed: now, moves: state.moves + 1, lever: payload.lever, unread };
    },
    /** All levers at once, as one move: to where a moment keeps them. */
    positionsMoved: (state, { payload }: PayloadAction<Positions>) => ({
      now: payload,
      committed: payload,
      moves: state.moves + 1,
      lever: null,
      unread: [],
    }),
    leversReset: (state, { payload }: PayloadAction<string[]>) => {
      const now = Object.fromEntries(Object.entries(state.now).filter(([id]) => !payload.includes(id)));
      return {
        now,
        committed: now,
        moves: state.moves + 1,
        lever: null,
        unread: state.unread.filter((id) => !payload.includes(id)),
      };
    },
    /** A clock has moved on by itself: no move of anybody's. */
    clockTicked: (state, { payload }: PayloadAction<{ lever: string; position: unknown }>) => {
      const { now, committed } = original(state)!;
      const ticked = { ...now, [payload.lever]: payload.position };
      // Outside a drag the two are one and the same, and stay so.
      return {
        ...state,
        now: ticked,
        committed: now === committed ? ticked : { ...committed, [payload.lever]: payload.position },
      };
    },
  },
});

export const { positionsSet, positionsMoved, leverMoved, leversReset, clockTicked } = positionsSlice.actions;
