import type { Grain } from './dimension';
import { periodEnd } from './periods';
import type { FieldType } from './values';

/** What is known about one field over all rows of its dataset. */
export interface FieldProfile {
  /** Rows in which the field has a value. */
  count: number;
  /** Distinct values, missing ones not counted. */
  distinct: number;
  /** Rows in which the field is empty. */
  missing: number;
  min: string | number | null;
  max: string | number | null;
  /** Of dates: the coarsest grain of which all are first days. The last of monthly dates stands for its whole month. */
  grain?: Grain;
}

/** The last day that the dates of a field stand for: of monthly ones, the last of the last month. */
export function lastDayOf({ max, grain }: FieldProfile): string | null {
  if (typeof max !== 'string') return null;
  const day = max.slice(0, 10);
  return grain ? periodEnd(day, grain) : day;
}

/** Where the values of a field come from that another dataset has: of its row whose `on` is `from` of this one's row. */
export interface Lookup {
  dataset: string;
  on: string;
  field: string;
  from: string;
}

/** `key` is the lasting name used in boards and in SQL; `name` is what people read and may change. */
export interface FieldInfo {
  key: string;
  name: string;
  type: FieldType;
  /** What it is computed from, row by row; left out where it came with the rows. */
  formula?: string;
  /** Where its values are looked up; left out where they came with the rows. */
  lookup?: Lookup;
  profile?: FieldProfile | null;
}

export interface DatasetInfo {
  id: string;
  name: string;
  /** Grows by one whenever rows or types change: whatever was computed for an older version is stale. */
  version: number;
  rows: number;
  fields: FieldInfo[];
}

export const fieldOf = (dataset: DatasetInfo, key: string): FieldInfo | undefined =>
  dataset.fields.find((field) => field.key === key);

/** Whether the values of a field came with the rows, and are neither computed nor looked up. */
export const cameWithRows = ({ formula, lookup }: Pick<FieldInfo, 'formula' | 'lookup'>): boolean =>
  formula === undefined && lookup === undefined;

/** What of a field a formula needs to know; `formula` or `lookup` where it is computed or looked up itself. */
export type RowField = Pick<FieldInfo, 'key' | 'name' | 'type' | 'formula' | 'lookup'>;
