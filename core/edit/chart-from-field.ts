import type { Category } from '../board/category';
import type { Chart } from '../board/chart';
import { type DatasetInfo, fieldOf } from '../data/dataset';
import { isNumeric, isTemporal } from '../data/values';
import { formKinds } from '../forms/registry';
import { firstChart, orderFor } from './defaults';
import { measureOf, roleOf } from './field-roles';

const yearOf = (value: unknown) => Number(String(value).slice(0, 4));

/** A field as what each mark stands for; dates cut so that there are not too many. */
function categoryOf(dataset: DatasetInfo, key: string): Category {
  const field = fieldOf(dataset, key)!;
  if (!isTemporal(field.type)) return { field: key };
  const years = yearOf(field.profile?.max) - yearOf(field.profile?.min);
  return { field: key, grain: years > 12 ? 'year' : 'month' };
}

/** Whether a field says how much, rather than what: numbers with more values than would be bars, and no codes or times. */
export const isMeasured = (dataset: DatasetInfo, key: string): boolean => {
  const field = fieldOf(dataset, key);
  if (!field || !isNumeric(field.type) || (field.profile?.distinct ?? Infinity) <= 31) return false;
  return ['amount', 'level'].includes(roleOf(field, dataset.rows));
};

/** A first chart of one field: of a number by the first category, or of the first measure by the field. */
export function chartFromField(dataset: DatasetInfo, key: string, taken: Iterable<string>): Chart {
  const chart = firstChart(dataset, taken);
  return withField(chart, dataset, key);
}

/** A chart that shows a field: as its measure if it says how much, else as what its marks stand for. */
export function withField(chart: Chart, dataset: DatasetInfo, key: string): Chart {
  if (isMeasured(dataset, key)) return { ...chart, measure: measureOf(fieldOf(dataset, key)!, dataset.rows) };
  const by = categoryOf(dataset, key);
  const form = by.grain && !formKinds.get(chart.form).lineStates ? 'columns' : chart.form;
  return { ...chart, by, form, order: orderFor(dataset, by) };
}
