import type { PlainRow } from '@sorvik/core/data/cube-of-rows';
import type { KeyValue } from '@sorvik/core/data/values';
import { SourceProblem } from '../board-source';

/** A value as rows have it: dates as texts without a zone, numbers that are none as missing. */
function plainValue(value: unknown): KeyValue {
  if (value === null || value === undefined) return null;
  if (typeof value === 'number') return Number.isFinite(value) ? value : null;
  if (typeof value === 'bigint') return Number(value);
  if (typeof value === 'string' || typeof value === 'boolean') return value;
  if (value instanceof Date) {
    if (Number.isNaN(value.getTime())) return null;
    const text = value.toISOString().slice(0, -1);
    return text.endsWith('T00:00:00.000') ? text.slice(0, 10) : text;
  }
  return JSON.stringify(value);
}

/** A record as a row: what is no value of a field is written as text. */
export const plainRow = (record: object): PlainRow =>
  Object.fromEntries(Object.entries(record).map(([key, value]) => [key, plainValue(value)]));

/** Reads the rows of a page: a list of records, or bytes of Arrow IPC. */
export async function readRows(given: unknown): Promise<PlainRow[]> {
  if (given instanceof ArrayBuffer || given instanceof Uint8Array) {
    const { arrowRows } = await import('./arrow-rows');
    const bytes = given instanceof ArrayBuffer ? new Uint8Array(given) : given;
    try {
      return arrowRows(bytes).map(plainRow);
    } catch {
      throw new SourceProblem('embed.problem.rows');
    }
  }
  if (!Array.isArray(given) || given.some((each) => typeof each !== 'object' || each === null))
    throw new SourceProblem('embed.problem.rows');
  return given.map(plainRow);
}
