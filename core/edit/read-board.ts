import type { Board } from '../board/board';
import { boardReader } from '../board/board-reader';
import type { KindLookup } from '../board/of-kind';
import type { Problem } from '../board/problem';
import { conditionKinds } from '../conditions/registry';
import { formKinds } from '../forms/registry';
import { guideKinds } from '../guides/registry';
import { abilityText, leverCan } from '../levers/abilities';
import { leverKinds } from '../levers/registry';
import { tell } from '../messages/desk';
import { leverUses } from '../pipeline/lever-uses';

const registries: Record<string, ReturnType<KindLookup>> = {
  lever: leverKinds,
  condition: conditionKinds,
  guide: guideKinds,
  form: formKinds,
};

/** All the kinds of this program, by their sort. */
export const allKinds: KindLookup = (sort) => registries[sort]!;

/** Every lever that a chart names exists and can do what it is named for. */
function leverProblems(board: Board): Problem[] {
  const levers = new Map(board.levers.map((lever) => [lever.id, lever]));
  return board.charts.flatMap((chart, c) =>
    leverUses(chart).flatMap(({ lever: id, pointer: at, how, loose, ability }) => {
      const lever = levers.get(id);
      const pointer = `/charts/${c}${at}`;
      if (!lever)
        // Braces in a title that name no lever are just text, and of a formula the sentence says it.
        return how === 'titles' || loose
          ? []
          : [{ pointer, message: tell('readBoard.thereIsNoLever', { id }) }];
      return ability && !leverCan(lever, ability)
        ? [
            {
              pointer,
              message: tell('readBoard.cannotStandHereThis', { id, ability: abilityText(ability) }),
            },
          ]
        : [];
    }),
  );
}

export const { readBoard, readBoardInTurns } = boardReader({ kinds: allKinds, rules: leverProblems });
