import type { PlainRow } from '@sorvik/core/data/cube-of-rows';
import type { DatasetInfo, FieldInfo, FieldProfile } from '@sorvik/core/data/dataset';
import { type Grain, grains } from '@sorvik/core/data/dimension';
import { isDateText, periodStart } from '@sorvik/core/data/periods';
import { compareKeys, type FieldType, type KeyValue } from '@sorvik/core/data/values';

/** What charts of rows in the page call their dataset. */
export const ownDataset = 'rows';

function typeOf(values: readonly KeyValue[]): FieldType {
  const known = values.filter((value) => value !== null);
  const all = (is: (value: KeyValue) => boolean) => known.length > 0 && known.every(is);
  if (all((value) => typeof value === 'boolean')) return 'boolean';
  if (all((value) => typeof value === 'number')) return all(Number.isInteger) ? 'integer' : 'decimal';
  if (all((value) => isDateText(value) && String(value).length === 10)) return 'date';
  if (all(isDateText)) return 'datetime';
  return 'text';
}

/** The coarsest grain of which all of some dates are first days. */
const grainOf = (days: readonly string[]): Grain | undefined =>
  grains.find((grain) => grain !== 'day' && days.every((day) => periodStart(day, grain) === day));

function profileOf(values: readonly KeyValue[], type: FieldType): FieldProfile {
  const distinct = [...new Set(values)].filter((value) => value !== null).sort(compareKeys);
  const count = values.filter((value) => value !== null).length;
  const grain = type === 'date' ? grainOf(distinct as string[]) : undefined;
  const end = (value: KeyValue | undefined) =>
    typeof value === 'string' || typeof value === 'number' ? value : null;
  return {
    ...{ count, distinct: distinct.length, missing: values.length - count },
    min: end(distinct[0]),
    max: end(distinct.at(-1)),
    ...(grain ? { grain } : {}),
  };
}

/** What is known of rows in the page. A field is called by its key. */
export function datasetOfRows(rows: readonly PlainRow[], version: number): DatasetInfo {
  const keys = new Set<string>();
  for (const row of rows) for (const key in row) keys.add(key);
  const fields = [...keys].map((key): FieldInfo => {
    const values = rows.map((row) => row[key] ?? null);
    const type = typeOf(values);
    return { key, name: key.replaceAll('_', ' '), type, profile: profileOf(values, type) };
  });
  return { id: ownDataset, name: ownDataset, version, rows: rows.length, fields };
}
