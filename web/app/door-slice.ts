import { createSlice } from '@reduxjs/toolkit';

/** Whether nobody is signed in where somebody has to be. */
export const doorSlice = createSlice({
  name: 'door',
  initialState: { closed: false },
  reducers: {
    shut(state) {
      state.closed = true;
    },
  },
});
export const { shut } = doorSlice.actions;
