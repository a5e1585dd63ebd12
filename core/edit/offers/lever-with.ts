import type { Chart } from '../../board/chart';
import type { LeverAbility } from '../../board/lever-ability';
import { type DatasetInfo, fieldOf } from '../../data/dataset';
import type { FieldCut } from '../../data/grain';
import { isTemporal } from '../../data/values';
import { type Lever, leverKinds } from '../../levers/registry';
import { newLever } from '../defaults';

const usualKinds: Record<LeverAbility, string> = {
  values: 'pick',
  figure: 'number',
  anyFigure: 'number',
  share: 'limits',
  interval: 'span',
  stretch: 'window',
  isOn: 'switch',
  side: 'choice',
  now: 'clock',
};
const names: Partial<Record<LeverAbility, string>> = {
  figure: 'Limit',
  anyFigure: 'Limit',
  share: 'Limits',
  isOn: 'Switch',
  side: 'Side',
  now: 'Now',
};

/** The chart's own cut where the kind fits its field, else the first date that it fits. */
function cutFor(kind: string, chart: Chart, dataset: DatasetInfo): FieldCut | undefined {
  const { fits } = leverKinds.get(kind);
  if (!fits) return undefined;
  const own = fieldOf(dataset, chart.by.field);
  if (own && fits(own)) return chart.by;
  const date = dataset.fields.find((field) => isTemporal(field.type) && fits(field));
  return date && { field: date.key, grain: 'day' };
}

/** A new lever with an ability, made for a chart. */
export function leverWith(
  ability: LeverAbility,
  chart: Chart,
  dataset: DatasetInfo,
  levers: readonly Lever[],
): Lever {
  const kind = usualKinds[ability];
  // A side is named by the author's options, not by a field.
  const cut = ability === 'side' ? undefined : cutFor(kind, chart, dataset);
  return newLever(kind, dataset, cut, levers, names[ability]);
}
