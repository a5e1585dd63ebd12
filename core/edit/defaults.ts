import { type Board, boardVersion } from '../board/board';
import type { Category } from '../board/category';
import type { Chart } from '../board/chart';
import type { Cue } from '../board/cue';
import { idFrom } from '../board/id';
import { lookColours } from '../board/look';
import type { Measure } from '../board/measure';
import type { Order } from '../board/order';
import { freeSign } from '../board/second-sign';
import type { Condition } from '../conditions/registry';
import { type DatasetInfo, type FieldInfo, fieldOf } from '../data/dataset';
import { type Dimension, dimensionKey, type Grain } from '../data/dimension';
import { isNumeric, isTemporal } from '../data/values';
import { type Lever, leverKinds } from '../levers/registry';
import { english } from '../messages/locale';
import { periodText } from '../words/dimension-text';
import { atStart } from '../words/letter-case';
import { measureOf, roleOf } from './field-roles';

const distinctOf = (field: FieldInfo) => field.profile?.distinct ?? 0;

/** A field worth measuring, or the count of rows where there is none. */
export function firstMeasure(dataset: DatasetInfo): Measure {
  const numbers = dataset.fields.filter(
    (field) => isNumeric(field.type) && ['amount', 'level'].includes(roleOf(field, dataset.rows)),
  );
  const found = numbers.find((field) => distinctOf(field) > 1) ?? numbers[0];
  return found ? measureOf(found, dataset.rows) : { aggregate: 'count' };
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

/** A chart as it is before anything is said of it. */
export const plainChart = (
  dataset: DatasetInfo,
  form: Chart['form'],
  by: Category,
  measure: Measure,
  more: Partial<Chart> = {},
): Chart => ({
  id: 'chart-1',
  form,
  dataset: dataset.id,
  by,
  measure,
  order: orderFor(dataset, by),
  cues: [],
  guides: [],
  touches: [],
  ...more,
});

/** A first chart that makes sense of a dataset. */
export function firstChart(dataset: DatasetInfo, taken: Iterable<string> = []): Chart {
  const by = firstCategory(dataset);
  return plainChart(dataset, by.grain ? 'columns' : 'bars', by, firstMeasure(dataset), {
    id: idFrom('chart 1', taken),
  });
}

export const firstBoard = (dataset: DatasetInfo): Board => ({
  version: boardVersion,
  title: dataset.name,
  levers: [],
  charts: [firstChart(dataset)],
});

/** A new lever of a kind, on a dimension where the kind stands on one, named after it and at a sensible start. */
export function newLever(
  kind: string,
  dataset: DatasetInfo,
  dimension: Dimension | undefined,
  levers: readonly Lever[],
  name?: string,
): Lever {
  const fieldName = dimension && (fieldOf(dataset, dimension.field)?.name ?? dimension.field);
  const full =
    name ??
    (fieldName && dimension?.grain
      ? atStart(periodText(dimension.grain, english.inSentence(fieldName), english))
      : fieldName) ??
    kind;
  return leverKinds.get(kind).make({
    id: idFrom(
      name ?? (dimension ? dimensionKey(dimension).replace('.', ' ') : kind),
      levers.map((lever) => lever.id),
      'lever',
    ),
    name: full,
    dataset,
    ...(dimension
      ? { dimension: { field: dimension.field, ...(dimension.grain ? { grain: dimension.grain } : {}) } }
      : {}),
  });
}

export const pickLeverFor = (dataset: DatasetInfo, dimension: Dimension, levers: readonly Lever[]): Lever =>
  newLever('pick', dataset, dimension, levers);

/** A cue with a look of its own: a colour that no other cue of the chart has, and a second sign beside it. */
export function newCue(name: string, condition: Condition, cues: readonly Cue[]): Cue {
  const looks = cues.flatMap((cue) => (cue.effect === 'light' ? [cue.look, ...(cue.looks ?? [])] : []));
  const used = new Set(looks.map(({ colour }) => colour));
  return {
    id: idFrom(
      name,
      cues.map((cue) => cue.id),
      'cue',
    ),
    effect: 'light',
    condition,
    look: { colour: lookColours.find((colour) => !used.has(colour)) ?? 'ember', ...freeSign(looks) },
    resting: 'plain',
  };
}

export const memberCue = (lever: string, taken: Iterable<string>, effect: Cue['effect'] = 'light'): Cue => ({
  id: idFrom(`${effect} ${lever}`, taken, 'cue'),
  effect,
  condition: { kind: 'member', lever },
  look: { colour: 'ember', outline: true },
  resting: 'plain',
});
