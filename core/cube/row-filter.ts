import type { FieldCut } from '../grain';
import type { KeyValue } from '../values';

/** Keeps the rows whose cut has one of the values; a missing value is never among them. */
export interface RowFilter extends FieldCut {
  values: readonly KeyValue[];
}
