import type { ValueType } from '@sorvik/formula/expression';
import { type DatasetInfo, fieldOf } from './dataset';
import type { Dimension } from './dimension';
import { isNumeric } from './values';

/** Of what type the values of a field are in a formula; a period is a date. */
export function valueTypeOf({ field, grain }: Dimension, dataset: DatasetInfo | undefined): ValueType {
  const type = dataset && fieldOf(dataset, field)?.type;
  if (grain) return 'date';
  return type && isNumeric(type) ? 'number' : ((type as ValueType | undefined) ?? 'text');
}
