import type { RowFilter } from '../cube/row-filter';
import type { FieldCut } from '../grain';
import type { KeyValue } from '../values';
import { listed } from '../words/plural';

/** Keeps the rows whose cut has one of the values. */
export function keepValues({ field, grain }: FieldCut, values: readonly KeyValue[]): RowFilter {
  const held = new Set(values);
  return {
    field,
    grain,
    keeps: (value) => held.has(value),
    text: (read) => listed(values.slice(0, 3).map(read), 3, values.length),
  };
}
