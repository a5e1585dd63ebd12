import type { DatasetInfo } from '@sorvik/core/data/dataset';
import type { LeverFacts } from '@sorvik/core/levers/lever-kind';
import type { ComponentType } from 'react';

/** What an author sets up of a lever. `S` and `P` are its spec and its position. */
export interface SetUpProps<S, P> {
  lever: S;
  position: P;
  facts: LeverFacts | undefined;
  /** The dataset of the lever, or of the chart in hand for a lever without one. */
  dataset: DatasetInfo | undefined;
  /** Changes the lever in a draft of the board: one step. */
  change(recipe: (lever: S) => void): void;
  /** Moves the lever, without changing the board. */
  move(position: P): void;
}

/** The set-up of one kind of lever. */
export interface SetUpKind {
  kind: string;
  // Each set-up is only ever given a lever of its own kind.
  // biome-ignore lint/suspicious/noExplicitAny: see above
  SetUp: ComponentType<SetUpProps<any, any>>;
}
