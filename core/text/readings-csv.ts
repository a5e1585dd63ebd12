import type { Measure } from '../board/measure';
import { measuredBy } from '../conditions/measured';
import { restCategory } from '../data/kept-categories';
import type { Readings } from '../data/readings';
import type { KeyValue } from '../data/values';
import { english } from '../messages/locale';
import { type Emphasis, markStates } from '../pipeline/emphasise';
import { csvField } from '../words/csv-field';
import { keyText } from '../words/key-text';
import { plainNumber } from '../words/number-text';
import type { ValueColumns } from './value-columns';

/** What the columns are called, and what else than the shown figure belongs to each reading. */
export interface CsvColumns extends ValueColumns {
  others: { name: string; measure: Measure }[];
}

function field(value: KeyValue): string {
  if (value === null) return '';
  if (typeof value === 'number') return plainNumber(value);
  if (typeof value === 'boolean') return String(value);
  return csvField(value === restCategory ? keyText(value, english) : value);
}

/** The readings of a chart as CSV, in its order, with the state of each mark. Missing figures are empty. */
export function readingsCsv(readings: Readings, emphasis: Emphasis, columns: CsvColumns): string {
  const { by, split, measure, others } = columns;
  const figures = others.map((other) => measuredBy(other.measure, readings).value);
  const number = (value: number | undefined) => (value === undefined || Number.isNaN(value) ? null : value);
  const rows = [[by, ...(split ? [split] : []), measure, ...others.map(({ name }) => name), 'state']];
  const order = Array.from(readings.place.keys()).sort(
    (a, b) => readings.place[a]! - readings.place[b]! || readings.seriesOf[a]! - readings.seriesOf[b]!,
  );
  const lines = order.map((i) =>
    [
      readings.category[i]!,
      ...(split ? [readings.series[readings.seriesOf[i]!] ?? null] : []),
      number(readings.value[i]),
      ...figures.map((values) => number(values[i])),
      markStates[emphasis.state[i]!]!,
    ]
      .map(field)
      .join(','),
  );
  return `${[rows[0]!.map(field).join(','), ...lines].join('\r\n')}\r\n`;
}
