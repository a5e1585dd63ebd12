import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector, useStore } from 'react-redux';
import { authorsSlice } from '../board/authors-slice';
import { boardSlice } from '../board/board-slice';
import { positionsSlice } from '../board/positions-slice';
import { api } from './api';
import { doorSlice } from './door-slice';
import { noticesSlice } from './notices-slice';

export const makeStore = () =>
  configureStore({
    reducer: {
      [api.reducerPath]: api.reducer,
      board: boardSlice.reducer,
      authors: authorsSlice.reducer,
      positions: positionsSlice.reducer,
      notices: noticesSlice.reducer,
      door: doorSlice.reducer,
    },
    middleware: (defaults) => defaults().concat(api.middleware),
  });

export type AppStore = ReturnType<typeof makeStore>;
export type RootState = ReturnType<AppStore['getState']>;
export type AppDispatch = AppStore['dispatch'];

export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
export const useAppStore = useStore.withTypes<AppStore>();
