import type { PartialAggregate } from './cube';

/** An aggregate of a field as it is said on a board, without a formula. */
interface Aggregated {
  aggregate: 'sum' | 'average' | 'count' | 'min' | 'max' | 'formula';
  field?: string | undefined;
}

/** What an aggregate is put together from after any filter. */
export function partialsOfAggregate({ aggregate, field }: Aggregated): PartialAggregate[] {
  // A formula says itself what it is put together from.
  if (aggregate === 'formula') return [];
  if (aggregate === 'average')
    return [
      { aggregate: 'sum', field },
      { aggregate: 'count', field },
    ];
  return [{ aggregate, field }];
}

/** An aggregate's value from its parts, rolled up in the order of `partialsOfAggregate`. Division by zero is null (NaN). */
export function aggregateValue({ aggregate }: Aggregated, partials: readonly number[]): number {
  const [first = Number.NaN, second = Number.NaN] = partials;
  if (aggregate !== 'average') return first;
  return second === 0 ? Number.NaN : first / second;
}
