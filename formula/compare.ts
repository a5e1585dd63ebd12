import type { Value } from './expression';

/** Texts by their code points, as the database does in its plainest order. */
function compareTexts(a: string, b: string): number {
  if (a === b) return 0;
  const [left, right] = [[...a], [...b]];
  const n = Math.min(left.length, right.length);
  for (let i = 0; i < n; i++)
    if (left[i] !== right[i]) return left[i]!.codePointAt(0)! - right[i]!.codePointAt(0)!;
  return left.length - right.length;
}

/** Which of two values of one type comes first; neither is null. Dates and times of one form stand as their texts do. */
export function compareValues(a: Value, b: Value): number {
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  if (typeof a === 'string' && typeof b === 'string') return compareTexts(a, b);
  return Number(a) - Number(b);
}

/** In an order: nulls last, or first where that is said, whichever way the rest is turned. */
export function compareSorted(a: Value, b: Value, descending: boolean, nullsFirst: boolean): number {
  if (a === null || b === null) {
    if (a === b) return 0;
    return (a === null) === nullsFirst ? -1 : 1;
  }
  return descending ? compareValues(b, a) : compareValues(a, b);
}
