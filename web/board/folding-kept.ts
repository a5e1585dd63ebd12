import type { SavedBoard } from '@sorvik/core/board/api-types';
import { editingApi } from '../app/editing-api';
import type { AppDispatch } from '../app/store';
import { tell } from '../ui/tell';
import { keepSteps, stepsTo } from './kept-steps';

/** Makes applying a working copy a step of the board that it is of, so that Undo takes it back there. */
export const foldingKept = (id: string, folded: SavedBoard) => async (dispatch: AppDispatch) => {
  const { version } = editingApi.endpoints;
  const asked = dispatch(version.initiate({ id, revision: folded.revision - 1 }));
  const { data: before } = await asked;
  asked.unsubscribe();
  if (!before) return;
  const { past } = stepsTo(id, before.document) ?? { past: [] };
  const step = { label: tell('board.foldingKept.aWorkingCopyApplied'), document: before.document };
  keepSteps({ id, document: folded.document, past: [...past, step], future: [] });
};
