import type { Measure } from './measure';

const written = { sum: 'SUM', average: 'AVG', count: 'COUNT', min: 'MIN', max: 'MAX' } as const;

/** A measure as the formula that says the same. */
export const measureAsText = ({ aggregate, field, text }: Measure): string =>
  aggregate === 'formula' ? text! : `${written[aggregate]}(${field ?? '*'})`;
