import type { Dimension } from './dimension';
import type { KeyValue } from './values';

/** How what is kept reads. */
export interface FilterWords {
  value(value: KeyValue): string;
  list(items: readonly string[], limit: number, total: number): string;
  allBut(text: string): string;
}

/** Keeps the rows whose dimension has a value that passes; a missing value never does. */
export interface RowFilter extends Dimension {
  keeps(value: KeyValue): boolean;
  /** Of a stretch of time: how much of the days from the first to the last is kept. */
  covers?(first: KeyValue, last: KeyValue): 'whole' | 'part' | 'none';
  /** What is kept, in words, given how values and messages read: "Quel – Ostrin and Harl – Vemmen". */
  text(read: FilterWords): string;
}
