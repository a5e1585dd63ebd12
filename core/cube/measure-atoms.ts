import type { Measure } from '../board/measure';
import { formulaAtoms } from '../formula/measure-scope';
import type { Atom } from './cube';

/** The atoms from which a measure is put together after any filter. */
export function measureAtoms(measure: Measure): Atom[] {
  const { aggregate, field, text = '' } = measure;
  if (aggregate === 'formula') return formulaAtoms(text);
  if (aggregate === 'average')
    return [
      { aggregate: 'sum', field },
      { aggregate: 'count', field },
    ];
  return [{ aggregate, field }];
}

/** The measure's value from its atoms, rolled up in the order of `measureAtoms`. Division by zero is null (NaN). */
export function measureValue(measure: Measure, atoms: readonly number[]): number {
  const [first = Number.NaN, second = Number.NaN] = atoms;
  if (measure.aggregate !== 'average') return first;
  return second === 0 ? Number.NaN : first / second;
}
