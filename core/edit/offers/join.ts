import type { Board } from '../../board/board';
import type { Chart } from '../../board/chart';
import type { LeverAbility } from '../../board/lever-ability';
import { byMeasure, type Condition, conditionKinds } from '../../conditions/registry';
import { type DatasetInfo, fieldOf } from '../../data/dataset';
import { isTemporal } from '../../data/values';
import { rehearsedMeasure } from '../../pipeline/chart-rules';
import { leverOn } from './lever-for';
import { leverWith } from './lever-with';

/** The conditions that make sense on a chart, with how they are offered. */
export function usualConditions(
  chart: Chart,
  dataset: DatasetInfo,
  board: Board,
): { kind: string; text: string }[] {
  const field = fieldOf(dataset, chart.by.field);
  const dated = field !== undefined && isTemporal(field.type);
  return conditionKinds
    .all()
    .flatMap(({ kind, usual }) =>
      usual && (dated || !usual.forDates) && (board.events?.length || !usual.forEvents)
        ? [{ kind, text: usual.text() }]
        : [],
    );
}

/** A usual condition of a kind for a chart; levers it needs are taken from the draft, or made there. */
export function makeCondition(kind: string, draft: Board, chart: Chart, dataset: DatasetInfo): Condition {
  const made: Condition = conditionKinds.get(kind).usual!.make((ability: LeverAbility) => {
    const found = leverOn(draft.levers, dataset.id, chart.by, ability);
    if (found) return found.id;
    const lever = leverWith(ability, chart, dataset, draft.levers);
    draft.levers.push(lever);
    return lever.id;
  });
  const rehearsed = rehearsedMeasure(chart);
  return rehearsed ? byMeasure(made, rehearsed) : made;
}
