import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Positions } from '@sorvik/core/levers/lever-kind';

/** Where the levers of the open board stand. Moving one never changes the board itself. */
export const positionsSlice = createSlice({
  name: 'positions',
  initialState: {} as Positions,
  reducers: {
    /** All positions at once: when a board is opened, or reset. */
    positionsSet: (_state, action: PayloadAction<Positions>) => action.payload,
    leverMoved: (state, action: PayloadAction<{ lever: string; position: unknown }>) => ({
      ...state,
      [action.payload.lever]: action.payload.position,
    }),
    leverReset: (state, action: PayloadAction<string>) => {
      const { [action.payload]: _gone, ...rest } = state;
      return rest;
    },
  },
});

export const { positionsSet, leverMoved, leverReset } = positionsSlice.actions;
