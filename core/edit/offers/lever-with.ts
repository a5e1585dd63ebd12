import type { Chart } from '../../board/chart';
import type { LeverAbility } from '../../board/lever-ability';
import { type DatasetInfo, fieldOf } from '../../data/dataset';
import type { Dimension } from '../../data/dimension';
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

/** The chart's own dimension where the kind fits its field, else the first date that it fits. */
function dimensionFor(kind: string, chart: Chart, dataset: DatasetInfo): Dimension | undefined {
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
  const dimension = ability === 'side' ? undefined : dimensionFor(kind, chart, dataset);
  return newLever(kind, dataset, dimension, levers, names[ability]);
}
