import { type DatasetInfo, type FieldInfo, fieldOf } from '../dataset';
import type { FieldCut, Grain } from '../grain';
import type { Lever } from '../levers/registry';
import { isNumeric, isTemporal } from '../values';
import { type Board, boardVersion } from './board';
import type { Category, Chart, Measure, Order } from './chart';
import type { Cue } from './cue';
import { idFrom } from './id';

const distinctOf = (field: FieldInfo) => field.profile?.distinct ?? 0;

/** Numbers that only tell rows apart or name things are no measures. */
const looksLikeName = (field: FieldInfo, rows: number) =>
  /(^|_)(id|no|nr|code|number|year|month|day|hour|week|index|zip|lat|lon)$/i.test(field.key) ||
  (field.type === 'integer' && distinctOf(field) === rows && rows > 1);

/** A field worth summing, or the count of rows where there is none. */
export function firstMeasure(dataset: DatasetInfo): Measure {
  const numbers = dataset.fields.filter(
    (field) => isNumeric(field.type) && !looksLikeName(field, dataset.rows),
  );
  const found = numbers.find((field) => distinctOf(field) > 1) ?? numbers[0];
  return found ? { aggregate: 'sum', field: found.key } : { aggregate: 'count' };
}

/** The grain that cuts a date field into a number of periods that can be taken in at a glance. */
export function firstGrain(field: FieldInfo): Grain {
  const from = Date.parse(String(field.profile?.min ?? ''));
  const to = Date.parse(String(field.profile?.max ?? ''));
  const days = (to - from) / 86_400_000;
  if (!(days >= 0)) return 'month';
  if (days <= 45) return 'day';
  return days <= 1200 ? 'month' : days <= 3700 ? 'quarter' : 'year';
}

/** Text with 2 to 40 values first, then anything else with 2 to 40, then a date, then whatever there is. */
export function firstCategory(dataset: DatasetInfo): Category {
  const few = (field: FieldInfo) => distinctOf(field) >= 2 && distinctOf(field) <= 40;
  const found =
    dataset.fields.find((field) => field.type === 'text' && few(field)) ??
    dataset.fields.find((field) => !isTemporal(field.type) && few(field)) ??
    dataset.fields.find((field) => isTemporal(field.type)) ??
    dataset.fields.find((field) => field.type === 'text') ??
    dataset.fields[0];
  if (!found) throw new Error('A dataset has at least one field.');
  return categoryOf(found);
}

export const categoryOf = (field: FieldInfo): Category =>
  isTemporal(field.type) ? { field: field.key, grain: firstGrain(field) } : { field: field.key };

/** Periods run in time; other categories stand by size. */
export const orderFor = (dataset: DatasetInfo, by: Category): Order => {
  const field = fieldOf(dataset, by.field);
  return field && isTemporal(field.type)
    ? { by: 'key', direction: 'ascending' }
    : { by: 'value', direction: 'descending' };
};

/** A first chart that makes sense of a dataset. */
export function firstChart(dataset: DatasetInfo, taken: Iterable<string> = []): Chart {
  const by = firstCategory(dataset);
  return {
    id: idFrom('chart 1', taken),
    form: by.grain ? 'columns' : 'bars',
    dataset: dataset.id,
    by,
    measure: firstMeasure(dataset),
    order: orderFor(dataset, by),
    cues: [],
    guides: [],
    touches: [],
  };
}

export const firstBoard = (dataset: DatasetInfo): Board => ({
  version: boardVersion,
  title: dataset.name,
  levers: [],
  charts: [firstChart(dataset)],
});

/** A pick lever on a cut of a dataset, named after it and empty at the start. */
export function pickLeverFor(dataset: DatasetInfo, cut: FieldCut, levers: readonly Lever[]): Lever {
  const name = fieldOf(dataset, cut.field)?.name ?? cut.field;
  const full = cut.grain ? `${name} by ${cut.grain}` : name;
  return {
    kind: 'pick',
    id: idFrom(
      cut.grain ? `${cut.field} ${cut.grain}` : cut.field,
      levers.map((lever) => lever.id),
      'lever',
    ),
    name: full,
    dataset: dataset.id,
    field: cut.field,
    ...(cut.grain ? { grain: cut.grain } : {}),
    start: [],
    clearing: 'empty',
  };
}

export const memberCue = (lever: string, taken: Iterable<string>, effect: Cue['effect'] = 'light'): Cue => ({
  id: idFrom(`${effect} ${lever}`, taken, 'cue'),
  effect,
  condition: { kind: 'member', lever },
  look: { colour: 'ember', outline: true },
  resting: 'plain',
});
