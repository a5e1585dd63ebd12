import type { LeverFacts } from '@sorvik/core/levers/lever-kind';
import type { ComponentType } from 'react';

/** What the control of a lever works with. `S` and `P` are its spec and its position. */
export interface ControlProps<S, P> {
  lever: S;
  /** Where it stands, fitted to the data. */
  position: P;
  facts: LeverFacts | undefined;
  problem: string | undefined;
  /** Moves it; `passing` while a drag goes on. */
  move(position: P, passing?: boolean): void;
}

/** The control of one kind of lever: what a viewer operates. */
export interface ControlKind {
  kind: string;
  // Each control is only ever given a lever of its own kind.
  // biome-ignore lint/suspicious/noExplicitAny: see above
  Control: ComponentType<ControlProps<any, any>>;
  /** The control itself shows where the lever stands: it need not be said beside the name. */
  tells?: true;
  /** The control as it stands inside a line of text; left out where it only reads there. */
  // biome-ignore lint/suspicious/noExplicitAny: see above
  Inline?: ComponentType<ControlProps<any, any>>;
}
