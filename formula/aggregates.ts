import { compareValues } from './compare';
import type { Value, ValueType } from './expression';

/** What an aggregate has taken in so far. */
export interface Tally {
  /** Takes in a value that is not null. */
  add(value: Value): void;
  /** What it comes to now. */
  value(): Value;
}

/** An aggregate of values; nulls are passed over. */
export interface AggregateFunction {
  name: string;
  signature: string;
  /** The type it takes; any where it is left out. */
  takes?: ValueType;
  /** The type it gives; that of what it takes where it is left out. */
  gives?: ValueType;
  tally(): Tally;
}

function total(give: (sum: number, count: number) => Value): Tally {
  let sum = 0;
  let count = 0;
  return {
    add(value) {
      sum += value as number;
      count++;
    },
    value: () => (count ? give(sum, count) : null),
  };
}

function extreme(sign: number): Tally {
  let best: Value = null;
  return {
    add(value) {
      if (best === null || sign * compareValues(value, best) > 0) best = value;
    },
    value: () => best,
  };
}

/** The sample variance by the distances from the mean so far (Welford 1962): what is large does not swallow what is small. */
function variance(give: (variance: number) => number): Tally {
  let count = 0;
  let mean = 0;
  let squares = 0;
  return {
    add(value) {
      const away = (value as number) - mean;
      count++;
      mean += away / count;
      squares += away * ((value as number) - mean);
    },
    value: () => (count < 2 ? null : give(squares / (count - 1))),
  };
}

export const aggregateFunctions: AggregateFunction[] = [
  {
    name: 'COUNT',
    signature: 'COUNT(*) or COUNT(value)',
    gives: 'number',
    tally() {
      let count = 0;
      return { add: () => void count++, value: () => count };
    },
  },
  { name: 'SUM', signature: 'SUM(number)', takes: 'number', tally: () => total((sum) => sum) },
  { name: 'AVG', signature: 'AVG(number)', takes: 'number', tally: () => total((sum, count) => sum / count) },
  { name: 'MIN', signature: 'MIN(value)', tally: () => extreme(-1) },
  { name: 'MAX', signature: 'MAX(value)', tally: () => extreme(1) },
  {
    name: 'VAR_SAMP',
    signature: 'VAR_SAMP(number)',
    takes: 'number',
    tally: () => variance((found) => found),
  },
  {
    name: 'STDDEV_SAMP',
    signature: 'STDDEV_SAMP(number)',
    takes: 'number',
    tally: () => variance(Math.sqrt),
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
