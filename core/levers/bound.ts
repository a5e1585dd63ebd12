import { closedObject, Own, oneOf } from '../board/validation';
import { fieldOf } from '../data/dataset';
import type { LeverFacts } from './lever-kind';

const boundSources = ['values', 'lowest', 'highest'] as const;

/** A bound of a lever: a figure, or one that follows the data, as in "up to the number of routes". */
export type Bound = number | { of: (typeof boundSources)[number]; field: string };

const isBound = (value: unknown): value is Bound => {
  if (typeof value === 'number') return Number.isFinite(value);
  if (typeof value !== 'object' || value === null) return false;
  const { of, field, ...rest } = value as Record<string, unknown>;
  return (
    boundSources.includes(of as never) &&
    typeof field === 'string' &&
    field.length <= 63 &&
    !Object.keys(rest).length
  );
};

export const IsBound = () =>
  Own({
    name: 'isBound',
    validate: isBound,
    message: 'check.bound',
    slots: () => ({ sources: boundSources.join(', ') }),
    schema: {
      anyOf: [
        { type: 'number' },
        closedObject({ of: oneOf(...boundSources), field: { type: 'string', maxLength: 63 } }),
      ],
    },
  });

/** The bound as a figure; NaN while the data is not known or does not have it. */
export function boundFigure(bound: Bound, facts: LeverFacts | undefined): number {
  if (typeof bound === 'number') return bound;
  const profile = facts && fieldOf(facts.dataset, bound.field)?.profile;
  if (!profile) return Number.NaN;
  const figure = { values: profile.distinct, lowest: profile.min, highest: profile.max }[bound.of];
  return typeof figure === 'number' ? figure : Number.NaN;
}
