import { compareValues } from './compare';
import type { Value, ValueType } from './expression';

/** An aggregate of values; nulls are passed over. */
export interface AggregateFunction {
  name: string;
  signature: string;
  /** The type it takes; any where it is left out. */
  takes?: ValueType;
  /** The type it gives; that of what it takes where it is left out. */
  gives?: ValueType;
  /** Of the values that are not null. */
  of(values: readonly Value[]): Value;
}

const sum = (values: readonly Value[]) => (values as number[]).reduce((total, value) => total + value, 0);
const extreme = (values: readonly Value[], sign: number): Value =>
  values.reduce(
    (best, value) => (best === null || sign * compareValues(value, best) > 0 ? value : best),
    null,
  );

/** The sample variance, by the distances from the mean: what is large does not swallow what is small. */
function variance(values: readonly Value[]): number | null {
  if (values.length < 2) return null;
  const mean = sum(values) / values.length;
  return (values as number[]).reduce((total, value) => total + (value - mean) ** 2, 0) / (values.length - 1);
}

export const aggregateFunctions: AggregateFunction[] = [
  { name: 'COUNT', signature: 'COUNT(*) or COUNT(value)', gives: 'number', of: (values) => values.length },
  {
    name: 'SUM',
    signature: 'SUM(number)',
    takes: 'number',
    of: (values) => (values.length ? sum(values) : null),
  },
  {
    name: 'AVG',
    signature: 'AVG(number)',
    takes: 'number',
    of: (values) => (values.length ? sum(values) / values.length : null),
  },
  { name: 'MIN', signature: 'MIN(value)', of: (values) => extreme(values, -1) },
  { name: 'MAX', signature: 'MAX(value)', of: (values) => extreme(values, 1) },
  { name: 'VAR_SAMP', signature: 'VAR_SAMP(number)', takes: 'number', of: variance },
  {
    name: 'STDDEV_SAMP',
    signature: 'STDDEV_SAMP(number)',
    takes: 'number',
    of(values) {
      const found = variance(values);
      return found === null ? null : Math.sqrt(found);
    },
  },
];

/** Taken only of the rows behind a reading, by the database. */
export const orderedAggregates = [
  { name: 'PERCENTILE_CONT', signature: 'PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY number)' },
];
export const isAggregate = (name: string) =>
  byName.has(name) || orderedAggregates.some((each) => each.name === name);

const byName = new Map(aggregateFunctions.map((each) => [each.name, each]));
export const aggregateFunction = (name: string) => byName.get(name);
