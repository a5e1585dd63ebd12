/**
 * One value of a field as it travels: dates are `YYYY-MM-DD`, date-times `YYYY-MM-DDTHH:MM:SS[.fff]` (no zone),
 * so equal values are equal strings. `null` is a missing value.
 */
export type KeyValue = string | number | boolean | null;

export const fieldTypes = ['integer', 'decimal', 'text', 'boolean', 'date', 'datetime'] as const;
export type FieldType = (typeof fieldTypes)[number];

export const isNumeric = (type: FieldType) => type === 'integer' || type === 'decimal';
export const isTemporal = (type: FieldType) => type === 'date' || type === 'datetime';

const isoStart = (text: string) => text.length >= 10 && text[4] === '-' && text[7] === '-';
const collator = new Intl.Collator('en', { numeric: true });

/** Ascending order of values of one field; missing values come last whichever way the rest is turned. */
export function compareKeys(a: KeyValue, b: KeyValue): number {
  if (a === null || b === null) return a === b ? 0 : a === null ? 1 : -1;
  if (typeof a === 'string' && typeof b === 'string') {
    if (a === b) return 0;
    // Dates stand in the order of their letters, and axes of them can be long.
    if (isoStart(a) && isoStart(b)) return a < b ? -1 : 1;
    return collator.compare(a, b) || (a < b ? -1 : 1);
  }
  return Number(a) - Number(b);
}

/** Whether values of two types can be the same. */
export const isComparable = (a: FieldType, b: FieldType): boolean =>
  a === b || (isNumeric(a) && isNumeric(b));
