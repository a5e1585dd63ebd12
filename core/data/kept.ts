import type { Dimension } from './dimension';
import type { RowFilter } from './row-filter';
import { compareKeys, type FieldType, isNumeric, isTemporal, type KeyValue } from './values';

/** Which values of a dimension are kept, for the database: these, or those from one to another, both included. */
export interface Kept extends Dimension {
  values?: KeyValue[];
  ranges?: [KeyValue, KeyValue][];
}

/** What a filter keeps of the values that there are. Figures and dates as stretches, which are few where values are many. */
export function keptOf(filter: RowFilter, values: readonly KeyValue[], type: FieldType): Kept {
  const { field, grain } = filter;
  const dimension = { field, ...(grain ? { grain } : {}) };
  const known = values.filter((value) => value !== null);
  if (!grain && !isNumeric(type) && !isTemporal(type))
    return { ...dimension, values: known.filter(filter.keeps) };
  const ranges: [KeyValue, KeyValue][] = [];
  let open = false;
  for (const value of [...known].sort(compareKeys)) {
    const kept = filter.keeps(value);
    if (kept && open) ranges.at(-1)![1] = value;
    else if (kept) ranges.push([value, value]);
    open = kept;
  }
  return { ...dimension, ranges };
}
