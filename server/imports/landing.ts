import type { ImportView, Reject } from '@sorvik/core/board/api-types';
import type { ColumnPlan } from './column-plan';
import type { Inspection } from './inspect';

/** Rows that lie in a table of their own until somebody says what becomes of them. */
export interface StagedRows {
  /** Names the table. */
  number: number;
  file: string;
  inspection: Inspection;
  keys: string[];
  rows: number;
  rejected: number;
  rejects: Reject[];
}

/** What a file is for, where it is not to be a dataset of its own. */
export interface Landing {
  refresh: NonNullable<ImportView['refresh']>;
  /** The dataset has one row for each period: columns that are periods become rows without being asked about. */
  long: boolean;
  /** How its columns are read for that. Throws `UnusableFile` where they cannot be. */
  plan(inspection: Inspection): Inspection;
  /** The keys of its columns there. */
  keys(plans: readonly ColumnPlan[]): string[];
}
