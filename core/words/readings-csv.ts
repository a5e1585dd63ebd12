import type { Measure } from '../board/measure';
import { measuredBy } from '../conditions/measured';
import type { Readings } from '../cube/readings';
import { type Emphasis, markStates } from '../emphasis/emphasise';
import type { KeyValue } from '../values';

/** What the columns of the readings are called, and what else than the shown figure belongs to each. */
export interface CsvColumns {
  by: string;
  /** Left out where the readings are not parted. */
  split?: string;
  measure: string;
  others: { name: string; measure: Measure }[];
}

/** A field as RFC 4180 has it; one that a spreadsheet would take for a formula is held as text. */
function field(value: KeyValue): string {
  if (value === null) return '';
  if (typeof value !== 'string') return String(value);
  const text = /^[=+\-@\t\r]/.test(value) ? `'${value}` : value;
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
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
