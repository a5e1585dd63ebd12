import type { Dimension } from '../data/dimension';
import type { RowFilter } from '../data/row-filter';
import type { KeyValue } from '../data/values';

/** Keeps the rows whose dimension has one of the values. */
export function keepValues({ field, grain }: Dimension, values: readonly KeyValue[]): RowFilter {
  const held = new Set(values);
  return {
    field,
    grain,
    keeps: (value) => held.has(value),
    text: (read) => read.list(values.slice(0, 3).map(read.value), 3, values.length),
  };
}
