import { type Board, leverOf } from '../board/board';
import { abilityText, leverCan } from '../levers/abilities';
import { tell } from '../messages/desk';
import { type Part, sentenceParts } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';

/** ", while Storms is on": the switch that must be on, once a sentence has one. */
export const whenParts = (when: string | undefined, words: Vocabulary): Part[] =>
  when === undefined
    ? []
    : sentenceParts('when', {
        lever: {
          slot: 'lever',
          label: tell('when.label'),
          path: ['when'],
          text: words.lever(when)?.name ?? when,
          value: when,
          ability: 'isOn',
        },
      });

/** What its levers cannot do, in words. */
export function unable(
  needs: readonly { lever: string; ability: Parameters<typeof leverCan>[1] }[],
  board: Board,
): string | undefined {
  for (const { lever: id, ability } of needs) {
    const lever = leverOf(board, id);
    if (lever && !leverCan(lever, ability))
      return tell('lever.unable', { lever: lever.name, needed: abilityText(ability) });
  }
  return undefined;
}
