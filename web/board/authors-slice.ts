import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** Somebody else at work on the open board. */
export interface OtherAuthor {
  name: string;
  /** The chart that they work at; null while it is none. */
  chart: string | null;
}

export interface AuthorsState {
  others: OtherAuthor[];
  /** The revision that the open board is said to be at by now; 0 while nothing is said. */
  revision: number;
}

const alone: AuthorsState = { others: [], revision: 0 };

/** Who else works at the board on the bench, and how far they have brought it. */
export const authorsSlice = createSlice({
  name: 'authors',
  initialState: alone,
  reducers: {
    othersSeen: (state, { payload }: PayloadAction<OtherAuthor[]>) => {
      state.others = payload;
    },
    revisionTold: (state, { payload }: PayloadAction<number>) => {
      state.revision = payload;
    },
    nobodyFollowed: () => alone,
  },
});

export const { othersSeen, revisionTold, nobodyFollowed } = authorsSlice.actions;
