import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import type { Sentence, Word } from '@sorvik/core/words/sentence';
import type { Vocabulary } from '@sorvik/core/words/vocabulary';
import type { ComponentType } from 'react';
import type { OwnWord } from '../../ui/own-words';

export interface EditorProps {
  board: Board;
  chart: Chart;
  dataset: DatasetView;
  words: Vocabulary;
  sentence: Sentence;
  word: Word;
  /** Changes the chart in hand, and what hangs on it, in a draft of the board. */
  change(recipe: (chart: Chart, board: Board) => void): void;
}

/** The small editor behind one kind of word. */
export interface EditorKind {
  /** The word's slot. */
  kind: string;
  /** What is being chosen, for the editor's name. */
  label: string;
  /** The word of Sorvik's own that it is about, explained where it is first met. */
  word?: OwnWord;
  Editor: ComponentType<EditorProps>;
}
