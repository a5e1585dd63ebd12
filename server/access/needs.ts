import type { DatasetView } from '@sorvik/core/board/api-types';
import type { CubeRequest } from '@sorvik/core/data/cube';
import type { Kept } from '@sorvik/core/data/kept';
import type { Context } from 'hono';

/** What somebody may do with a board or a dataset: each can all that those before it can. */
export const roles = ['view', 'edit', 'own'] as const;
export type Role = (typeof roles)[number];

export const isAtLeast = (role: Role | null, wanted: Role): boolean =>
  role !== null && roles.indexOf(role) >= roles.indexOf(wanted);

/** What rights are of. */
export type Thing = 'board' | 'dataset';

/**
 * What a request needs: nothing, somebody who is signed in, or who has at least come by a link (`visitor`), an owner of the server,
 * a role on the board or the dataset that its address names, or to have begun the import that it names. A board that is `shown` is
 * also that of a link that somebody has come by, a dataset one that such a board shows, or another one that they may see: the
 * handler then keeps to what is shown. Whatever else it needs its handler asks for.
 */
export type Needs =
  | 'nothing'
  | 'person'
  | 'visitor'
  | 'owner'
  | { board: Role | 'shown' }
  | { dataset: Role | 'shown' }
  | 'its-import';

/** What is counted of each person: questions about data, and files that they send. */
export type Counted = 'question' | 'upload';

/** Whoever is signed in, in rights. */
export const everybody = 'everybody';

/** Somebody who has come by a link: to which board, and what its author has said of it. */
export interface Visit {
  link: string;
  board: string;
  /** Where levers stand, as the address of a show says it; empty for the start. */
  positions: string;
  /** Levers that stay there, by their ids. */
  fixed: string[];
  /** The origins whose pages may show it. */
  origins: string[];
}

/** What of a dataset somebody reaches who sees it on boards alone. */
export interface ShownLimits {
  /** Throws 403 for a question that no such board asks. */
  need(question: CubeRequest & { kept?: readonly Kept[] }): void;
  /** Throws 403 for a field whose values no lever of such a board lists. */
  needListed(field: string): void;
  /** The description of the dataset without what no board shows. */
  cut(view: DatasetView): DatasetView;
}

/** What the audit trail knows. */
export type Action =
  | 'signed-in'
  | 'sign-in-refused'
  | 'signed-out'
  | 'password-changed'
  | 'password-reset'
  | 'joined'
  | 'invited'
  | 'reset-link-made'
  | 'person-changed'
  | 'group-changed'
  | 'link-made'
  | 'link-withdrawn'
  | 'link-followed'
  | 'link-refused'
  | 'token-made'
  | 'token-withdrawn'
  | 'rights-changed'
  | 'rule-changed'
  | 'board-published'
  | 'board-deleted'
  | 'board-restored'
  | 'rows-changed'
  | 'rows-gone-back'
  | 'dataset-deleted'
  | 'dataset-restored'
  | 'dataset-removed-for-good';

/** What routes ask before they do something, and for what they list. Where there is no team, all of it is allowed. */
export interface Admission {
  /** How the server is for a team; null where nobody signs in. */
  readonly team: object | null;
  /** Throws where whoever asks may not. */
  admit(c: Context, needs: Needs): Promise<void>;
  /** Whether whoever was let in before may still do that. */
  mayStill(c: Context, needs: Needs): Promise<boolean>;
  /** Who asks; null where nobody signs in, or whoever asks has come by a link. */
  asker(c: Context): Promise<{ id: string; name: string } | null>;
  /** Throws where whoever asks has not a role on something else that a request reaches. */
  also(c: Context, kind: Thing, id: string, wanted: Role): Promise<void>;
  /** What whoever asks is limited to of the dataset that the address names; null where they may see it. */
  limits(c: Context): ShownLimits | null;
  /** Throws where whoever asks may not see what is published of a board: neither by their rights nor by a link. */
  needShown(c: Context, board: string): Promise<void>;
  /** The link by which whoever asks sees the board that the address names; null where they may see it without one. */
  visit(c: Context): Visit | null;
  /** Those of some datasets whose changes whoever asks may hear of: they see them, or a board that shows them. */
  followed(c: Context, datasets: readonly string[]): Promise<string[]>;
  /** Those of some things on which whoever asks has a role. */
  visible<T extends { id: string }>(
    c: Context,
    kind: Thing,
    things: readonly T[],
    wanted?: Role,
  ): Promise<T[]>;
  /** The name of a person whose token lets a program push rows to a dataset; null where no such token is given. */
  pusher(c: Context, dataset: string): Promise<string | null>;
  /** Counts what whoever asks asks for. Throws 429 where that is too much. */
  count(c: Context, what: Counted): Promise<void>;
  /** Notes what was done. */
  note(c: Context, action: Action, thing: string): Promise<void>;
}
