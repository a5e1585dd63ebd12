import type { Dimension } from './dimension';
import type { KeyValue } from './values';

/** Keeps the rows whose dimension has a value that passes; a missing value never does. */
export interface RowFilter extends Dimension {
  keeps(value: KeyValue): boolean;
  /** Of a stretch of time: how much of the days from the first to the last is kept. */
  covers?(first: KeyValue, last: KeyValue): 'whole' | 'part' | 'none';
  /** What is kept, in words, given how a value reads: "Quel – Ostrin and Harl – Vemmen". */
  text(read: (value: KeyValue) => string): string;
}
