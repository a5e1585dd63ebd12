import { csvField } from '../words/csv-field';
import { plainNumber } from '../words/number-text';
import type { Workings } from './workings';

const numberField = (value: number | string | null) =>
  typeof value === 'number' ? plainNumber(value) : (value ?? '');

/** Workings as CSV (RFC 4180), in an order: figures in full, null as nothing. */
export function workingsCsv({ steps }: Workings, order: ArrayLike<number>): string {
  const lines = Array.from(order, (i) =>
    steps.map((step) => (step.numeric ? numberField(step.value(i)) : csvField(step.text(i)))).join(','),
  );
  return `${[steps.map(({ heading }) => csvField(heading)).join(','), ...lines].join('\r\n')}\r\n`;
}
