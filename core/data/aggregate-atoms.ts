import type { Atom } from './cube';

/** An aggregate of a field as it is said on a board, without a formula. */
interface Aggregated {
  aggregate: 'sum' | 'average' | 'count' | 'min' | 'max' | 'formula';
  field?: string | undefined;
}

/** The atoms from which an aggregate is put together after any filter. */
export function aggregateAtoms({ aggregate, field }: Aggregated): Atom[] {
  // A formula says itself what it is put together from.
  if (aggregate === 'formula') return [];
  if (aggregate === 'average')
    return [
      { aggregate: 'sum', field },
      { aggregate: 'count', field },
    ];
  return [{ aggregate, field }];
}

/** An aggregate's value from its atoms, rolled up in the order of `aggregateAtoms`. Division by zero is null (NaN). */
export function aggregateValue({ aggregate }: Aggregated, atoms: readonly number[]): number {
  const [first = Number.NaN, second = Number.NaN] = atoms;
  if (aggregate !== 'average') return first;
  return second === 0 ? Number.NaN : first / second;
}
