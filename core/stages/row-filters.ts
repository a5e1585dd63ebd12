import type { Chart } from '../board/chart';
import type { LeverContext } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';
import type { RowFilter } from '../cube/row-filter';
import { heardCues } from './heard-cues';

/** What the filtering cues of a chart keep now, of those that are not switched off. */
export const rowFilters = (chart: Chart, context: LeverContext): RowFilter[] =>
  heardCues(chart, context)
    .filter((cue) => cue.effect === 'filter')
    .map((cue) => conditionKinds.get(cue.condition.kind).rowFilter(cue.condition, context))
    .filter((filter) => filter !== null);
