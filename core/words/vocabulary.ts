import type { FormulaEngine } from '@sorvik/formula/engine';
import type { Board, Lever } from '../board/board';
import { leverOf } from '../board/board';
import type { BoardEvent } from '../board/event';
import { type DatasetInfo, type FieldInfo, fieldOf } from '../data/dataset';
import { type Locale, localeOf } from '../messages/locale';

/** The names that sentences are put together from. */
export interface Vocabulary {
  /** How numbers, dates and words are written. */
  locale: Locale;
  field(key: string): FieldInfo | undefined;
  /** The field's name as it reads inside a sentence: "passengers"; its key when it is not in the data. */
  fieldName(key: string): string;
  lever(id: string): Lever | undefined;
  levers: readonly Lever[];
  /** What happened when, on this board. */
  events: readonly BoardEvent[];
  /** Days on which nobody works, besides weekends. */
  holidays: readonly string[];
  /** What reads formulas, to say what is wrong with one; null until it is there. */
  engine: FormulaEngine | null;
}

/** The vocabulary of a board, in its own language or in another one: what authors read is English. */
export function vocabularyOf(
  board: Board,
  dataset: DatasetInfo | undefined,
  engine: FormulaEngine | null,
  locale = localeOf(board.locale),
): Vocabulary {
  const field = (key: string) => (dataset ? fieldOf(dataset, key) : undefined);
  return {
    locale,
    field,
    fieldName: (key) => locale.inSentence(field(key)?.name ?? key),
    lever: (id) => leverOf(board, id),
    levers: board.levers,
    events: board.events ?? [],
    holidays: board.holidays ?? [],
    engine,
  };
}
