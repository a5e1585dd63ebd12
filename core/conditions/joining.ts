import type { Condition } from './registry';

/** The conditions that stand side by side in a condition. */
export const partsOf = (condition: Condition): Condition[] =>
  'of' in condition && Array.isArray(condition.of) ? condition.of : [condition];

/** A condition and one more; both must be met unless the first is already a choice of several. */
export const joined = (condition: Condition, more: Condition): Condition =>
  condition.kind === 'all' || condition.kind === 'any'
    ? { ...condition, of: [...condition.of, more] }
    : { kind: 'all', of: [condition, more] };

/** A condition of several without one of them; of the last two one is left by itself. */
export function without(condition: Condition, index: number): Condition {
  const left = partsOf(condition).filter((_, i) => i !== index);
  return left.length === 1 ? left[0]! : ({ ...condition, of: left } as Condition);
}

/** A condition of several with another one in the place of one of them; one that stands alone becomes the other. */
export const replaced = (condition: Condition, index: number, by: Condition): Condition =>
  'of' in condition && Array.isArray(condition.of)
    ? ({ ...condition, of: condition.of.map((each, i) => (i === index ? by : each)) } as Condition)
    : by;

/** The opposite of a condition. */
export const negated = (condition: Condition): Condition =>
  condition.kind === 'not' ? condition.of : { kind: 'not', of: condition };

export const isNegated = ({ kind }: Condition): boolean => kind === 'not';
