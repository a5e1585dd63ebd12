import type { FieldCut } from '../grain';
import type { KeyValue } from '../values';

/** Keeps the rows whose cut has a value that passes; a missing value never does. */
export interface RowFilter extends FieldCut {
  keeps(value: KeyValue): boolean;
  /** What is kept, in words, given how a value reads: "Quel – Ostrin and Harl – Vemmen". */
  text(read: (value: KeyValue) => string): string;
}
