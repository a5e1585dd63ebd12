import type { KeyValue } from '../data/values';
import { csvField } from '../words/csv-field';
import { plainNumber } from '../words/number-text';
import type { ReadingsTable } from './readings-table';

function field(value: KeyValue): string {
  if (value === null) return '';
  if (typeof value === 'number') return plainNumber(value);
  return typeof value === 'boolean' ? String(value) : csvField(value);
}

/** The readings of a chart as CSV. Missing figures are empty. */
export const readingsCsv = ({ names, rows }: ReadingsTable): string =>
  `${[names, ...rows].map((row) => row.map(field).join(',')).join('\r\n')}\r\n`;
