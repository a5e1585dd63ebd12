import { type Board, leverOf } from '../board/board';
import type { Vocabulary } from '../words/vocabulary';
import type { Positions } from './lever-kind';
import { positionText } from './position-text';
import { type Facts, settledPosition } from './settled-positions';

/** Where the levers of a board stand. */
export interface Standing {
  positions: Positions;
  facts: Facts;
}

/** What a lever holds in a few words, by its id; the id in braces where there is no such lever. */
export const heldText =
  (board: Board, { positions, facts }: Standing, words: Vocabulary) =>
  (id: string): string => {
    const lever = leverOf(board, id);
    if (!lever) return `{${id}}`;
    return positionText(lever, settledPosition(lever, positions, facts).position, facts[id], words);
  };

/** What each lever of a board holds: "Routes: Quel – Ostrin". */
export function leversHeld(board: Board, standing: Standing, words: Vocabulary): string[] {
  const text = heldText(board, standing, words);
  return board.levers.map(({ id, name }) => `${name}: ${text(id)}`);
}
