import type { Board } from '@sorvik/core/board/board';
import { createPatch } from 'rfc6902';
import type { BoardState, Step } from './board-slice';

/** What can be undone and done again, and the document that it is about. */
interface Kept {
  document: Board;
  past: Step[];
  future: Step[];
}

const nameOf = (board: string) => `sorvik steps ${board}`;
/** Older steps than so many are forgotten with the page; a tab has room for a few MB. */
const mostSteps = 60;
const mostLetters = 2_000_000;

/** Keeps the steps of a board for this tab, so that a reload does not lose them. */
export function keepSteps({
  id,
  document,
  past,
  future,
}: Pick<BoardState, 'id' | 'document' | 'past' | 'future'>): void {
  if (!id || !document) return;
  const kept: Kept = { document, past: past.slice(-mostSteps), future: future.slice(-mostSteps) };
  try {
    const text = JSON.stringify(kept);
    if (past.length + future.length === 0 || text.length > mostLetters) sessionStorage.removeItem(nameOf(id));
    else sessionStorage.setItem(nameOf(id), text);
  } catch {
    // Without room in the tab steps end with the page, as they always did.
  }
}

/** The steps that led to a document, as this tab knows them; null where they led to another one. */
export function stepsTo(board: string, document: Board): Pick<Kept, 'past' | 'future'> | null {
  try {
    const kept = JSON.parse(sessionStorage.getItem(nameOf(board)) ?? 'null') as Kept | null;
    return kept && createPatch(kept.document, document).length === 0
      ? { past: kept.past, future: kept.future }
      : null;
  } catch {
    return null;
  }
}
