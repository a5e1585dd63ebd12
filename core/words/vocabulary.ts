import type { Board } from '../board/board';
import { leverOf } from '../board/board';
import type { BoardEvent } from '../board/event';
import { type DatasetInfo, type FieldInfo, fieldOf } from '../dataset';
import type { Lever } from '../levers/registry';

/** The names that sentences are put together from. */
export interface Vocabulary {
  field(key: string): FieldInfo | undefined;
  /** The field's name as it reads inside a sentence: "passengers"; its key when it is not in the data. */
  fieldName(key: string): string;
  lever(id: string): Lever | undefined;
  /** What happened when, on this board. */
  events: readonly BoardEvent[];
}

/** Names start small inside a sentence, but "CO2" and "ID" stay as they are. */
export const inSentence = (name: string) =>
  /^\p{Lu}\p{Ll}/u.test(name) ? name[0]!.toLowerCase() + name.slice(1) : name;
export const atStart = (text: string) => (text ? text[0]!.toUpperCase() + text.slice(1) : text);

export function vocabularyOf(board: Board, dataset: DatasetInfo | undefined): Vocabulary {
  const field = (key: string) => (dataset ? fieldOf(dataset, key) : undefined);
  return {
    field,
    fieldName: (key) => inSentence(field(key)?.name ?? key),
    lever: (id) => leverOf(board, id),
    events: board.events ?? [],
  };
}
