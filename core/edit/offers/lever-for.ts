import type { Board } from '../../board/board';
import type { Chart } from '../../board/chart';
import type { LeverAbility } from '../../board/lever-ability';
import type { DatasetInfo } from '../../data/dataset';
import { type Dimension, sameDimension } from '../../data/dimension';
import { leverCan } from '../../levers/abilities';
import { kindOf, type Lever } from '../../levers/registry';
import { leverUses, type UseWord } from '../../pipeline/lever-uses';
import { newLever } from '../defaults';

/** The first lever of a board that stands on a dimension of a dataset and has an ability. */
export const leverOn = (
  levers: readonly Lever[],
  dataset: string,
  dimension: Dimension,
  ability: LeverAbility,
): Lever | undefined =>
  levers.find((lever) => {
    const source = kindOf(lever).source?.(lever);
    return source?.dataset === dataset && sameDimension(source, dimension) && leverCan(lever, ability);
  });

/** The same, made when there is none. */
export function leverFor(
  draft: Board,
  kind: string,
  dataset: DatasetInfo,
  dimension: Dimension,
  ability: LeverAbility,
  name?: string,
): Lever {
  const found = leverOn(draft.levers, dataset.id, dimension, ability);
  if (found) return found;
  const made = newLever(kind, dataset, dimension, draft.levers, name);
  draft.levers.push(made);
  return made;
}

export const usesLever = (chart: Chart, lever: string, how: UseWord): boolean =>
  leverUses(chart).some((use) => use.lever === lever && use.how === how);
