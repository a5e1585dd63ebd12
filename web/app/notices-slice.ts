import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** A line that tells what was done; `undo` names how it is taken back. */
export interface Notice {
  id: number;
  text: string;
  undo?:
    | { kind: 'board' | 'dataset'; id: string }
    | { kind: 'fold'; id: string; scratch: string; revision: number };
}

let count = 0;

/** Short notices in the corner of the page. */
export const noticesSlice = createSlice({
  name: 'notices',
  initialState: [] as Notice[],
  reducers: {
    noticed: {
      reducer: (state, action: PayloadAction<Notice>) => [...state.slice(-2), action.payload],
      prepare: (notice: Omit<Notice, 'id'>) => ({ payload: { ...notice, id: ++count } }),
    },
    noticeGone: (state, action: PayloadAction<number>) =>
      state.filter((notice) => notice.id !== action.payload),
  },
});

export const { noticed, noticeGone } = noticesSlice.actions;
