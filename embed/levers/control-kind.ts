import type { DatasetInfo } from '@sorvik/core/data/dataset';
import type { Kind } from '@sorvik/core/data/kinds';
import type { LeverFacts } from '@sorvik/core/levers/lever-kind';
import type { Locale } from '@sorvik/core/messages/locale';
import type { FoundValues } from '../board-source';

/** A lever, and where it stands. `S` and `P` are its spec and its position. */
export interface LeverStanding<S, P> {
  lever: S;
  position: P;
  facts: LeverFacts | undefined;
}

/** What a control tells whoever shows it, and asks of it. */
export interface ControlHost<P> {
  locale: Locale;
  /** Moves the lever; `passing` while a drag goes on. */
  move(position: P, passing?: boolean): void;
  /** Looks for values of a list that is too long to be here. */
  search(dataset: DatasetInfo, field: string, text: string): Promise<FoundValues>;
}

/** A control on a page: an element, and what brings it up to where its lever stands. */
export interface LeverControl {
  element: HTMLElement;
  // Each control is only ever given a lever of its own kind.
  // biome-ignore lint/suspicious/noExplicitAny: see above
  show(standing: LeverStanding<any, any>): void;
}

/** The control of one kind of lever, of what browsers have for it. */
export interface ControlKind extends Kind {
  /** The control itself says where the lever stands: it need not be said beside the name. */
  tells?: true;
  // biome-ignore lint/suspicious/noExplicitAny: see above
  make(host: ControlHost<any>): LeverControl;
}
