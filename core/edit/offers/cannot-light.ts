import { leverOf } from '../../board/board';
import type { LeverAbility } from '../../board/lever-ability';
import { conditionKinds } from '../../conditions/registry';
import { leverCan } from '../../levers/abilities';
import type { Lever } from '../../levers/registry';
import type { OfferContext } from './offer';

/** Why a lever cannot light marks of a chart, as the conditions that it could be in say it; null where it can. */
export function cannotLight(
  { board, chart, words }: Omit<OfferContext, 'dataset'>,
  lever: Lever,
): string | null {
  let reason: string | null = null;
  for (const { usual, unfit } of conditionKinds.all()) {
    const asked: LeverAbility[] = [];
    const spec = usual?.make((ability) => {
      asked.push(ability);
      return lever.id;
    });
    if (!spec || !asked.length || !asked.every((ability) => leverCan(lever, ability))) continue;
    const why = unfit(spec, chart, (id) => leverOf(board, id), words);
    if (why === null) return null;
    reason ??= why;
  }
  return reason;
}
