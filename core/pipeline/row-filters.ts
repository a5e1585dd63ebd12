import type { Chart } from '../board/chart';
import { conditionKinds } from '../conditions/registry';
import type { RowFilter } from '../data/row-filter';
import type { LeverContext } from '../levers/lever-kind';
import { enabledCues } from './enabled-cues';

/** What the filtering cues of a chart keep now, of those that are not switched off. */
export const rowFilters = (chart: Chart, context: LeverContext): RowFilter[] =>
  enabledCues(chart, context)
    .filter((cue) => cue.effect === 'filter')
    .map((cue) => conditionKinds.get(cue.condition.kind).rowFilter(cue.condition, context))
    .filter((filter) => filter !== null);
