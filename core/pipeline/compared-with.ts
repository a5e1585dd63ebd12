import type { Compare } from '../board/compare';
import type { KeyValue } from '../data/values';
import type { NotCompared } from './compared';

/** What readings are compared with now. */
export interface Compared {
  compare: Compare;
  /** The category that all are compared with, where it is one. */
  reference?: KeyValue | undefined;
  /** Why nothing can be compared. */
  not: NotCompared | null;
}
