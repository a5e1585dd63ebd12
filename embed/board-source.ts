import type { Board } from '@sorvik/core/board/board';
import type { Cube } from '@sorvik/core/data/cube';
import type { DatasetInfo } from '@sorvik/core/data/dataset';
import type { KeyValue } from '@sorvik/core/data/values';
import type { Locale } from '@sorvik/core/messages/locale';
import { type EmbedMessage, say } from './say';

/** Some values of a field, of those that were found. */
export interface FoundValues {
  found: number;
  values: readonly KeyValue[];
}

/** Where a board and its data come from: a server, or rows in the page. Everything rejects with a `SourceProblem`. */
export interface BoardSource {
  board(): Promise<Board>;
  dataset(id: string): Promise<DatasetInfo>;
  /** The cube of a query (`cubeQuery`). */
  cube(dataset: string, query: string, signal?: AbortSignal): Promise<Cube>;
  /** How many cells the cube of a query would have (`sizeQuery`). */
  cells(dataset: string, query: string): Promise<number>;
  /** Which of some values of a field are not in the data. */
  absent(dataset: string, field: string, values: readonly KeyValue[]): Promise<readonly KeyValue[]>;
  /** The first values of a field that have a text in them. */
  values(dataset: DatasetInfo, field: string, search: string): Promise<FoundValues>;
  /** Tells when some of the datasets have changed, or what may be seen of them. Returns what ends that. */
  follow(datasets: readonly string[], changed: () => void): () => void;
}

/** Why something cannot be shown, as it is said in any language. */
export class SourceProblem extends Error {
  constructor(
    private readonly id: EmbedMessage,
    private readonly slots: Record<string, string> = {},
    /** Nobody answered: it is worth asking again. */
    readonly away = false,
  ) {
    super(id);
  }

  text(locale: Locale): string {
    return say(locale, this.id, this.slots);
  }
}
