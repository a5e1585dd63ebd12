import type { FieldProfile } from '@sorvik/core/data/dataset';
import { isTemporal } from '@sorvik/core/data/values';
import type { Field } from '../datasets/store';
import { cutText } from '../http/well-formed';

/** The place of a row in its file, from 0. No field has such a key. */
export const placeColumn = '"#place"';

/** Which rows a page has, $1 the first and $2 how many: by their places where every place has its row and all are asked for, not `some`. */
export const pageOfRows = ({ rows, places }: { rows: number; places: number }, some = false): string =>
  rows === places && !some
    ? `WHERE ${placeColumn} >= $1::bigint AND ${placeColumn} < $1::bigint + $2::bigint ORDER BY ${placeColumn}`
    : `ORDER BY ${placeColumn} LIMIT $2::bigint OFFSET $1::bigint`;

/** What a field's totals say of it. */
export function profileOf(
  { type }: Field,
  {
    rows,
    count,
    distinct,
    min,
    max,
    grain,
  }: {
    rows: number;
    count: number;
    distinct: number;
    min: unknown;
    max: unknown;
    grain?: FieldProfile['grain'] | undefined;
  },
): FieldProfile {
  const short = (value: unknown) =>
    typeof value === 'string' ? cutText(value, 200) : (value as number | null);
  return {
    count,
    missing: rows - count,
    distinct,
    min: short(min),
    max: short(max),
    // One date by itself tells nothing of how finely dates are taken.
    ...(isTemporal(type) ? { grain: distinct > 1 && grain ? grain : 'day' } : {}),
  };
}
