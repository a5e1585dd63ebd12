import { type Board, leverOf } from '../board/board';
import { abilityText, leverCan } from '../levers/abilities';
import type { Part } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';

/** ", while Storms is on": the switch that must be on, once a sentence has one. */
export const whenParts = (when: string | undefined, words: Vocabulary): Part[] =>
  when === undefined
    ? []
    : [
        ', while ',
        {
          slot: 'lever',
          label: 'Switch',
          path: ['when'],
          text: words.lever(when)?.name ?? when,
          value: when,
          ability: 'isOn',
        },
        ' is on',
      ];

/** What its levers cannot do, in words. */
export function unable(
  needs: readonly { lever: string; ability: Parameters<typeof leverCan>[1] }[],
  board: Board,
): string | undefined {
  for (const { lever: id, ability } of needs) {
    const lever = leverOf(board, id);
    if (lever && !leverCan(lever, ability))
      return `${lever.name} cannot be used here: this needs a lever that ${abilityText(ability)}.`;
  }
  return undefined;
}
