import type { Board } from '@sorvik/core/board/board';
import type { DatasetInfo } from '@sorvik/core/data/dataset';
import { type Vocabulary, vocabularyOf } from '@sorvik/core/words/vocabulary';
import { formulaEngine } from './formula-engine';

/** The names that the sentences of a board are put together from, of one of its datasets. */
export const boardWords = (board: Board, dataset: DatasetInfo | undefined): Vocabulary =>
  vocabularyOf(board, dataset, formulaEngine());
