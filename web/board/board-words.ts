import type { Board } from '@sorvik/core/board/board';
import type { DatasetInfo } from '@sorvik/core/data/dataset';
import { english } from '@sorvik/core/messages/locale';
import { type Vocabulary, vocabularyOf } from '@sorvik/core/words/vocabulary';
import { formulaEngine } from './formula-engine';

/** The names that what viewers read of a board is put together from, in the board's language. */
export const boardWords = (board: Board, dataset: DatasetInfo | undefined): Vocabulary =>
  vocabularyOf(board, dataset, formulaEngine());

/** The same for what its author reads: the bench speaks English whatever the board does. */
export const deskWords = (board: Board, dataset: DatasetInfo | undefined): Vocabulary =>
  vocabularyOf(board, dataset, formulaEngine(), english);
