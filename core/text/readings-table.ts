import type { Measure } from '../board/measure';
import { measuredBy } from '../conditions/measured';
import { restCategory } from '../data/kept-categories';
import type { Readings } from '../data/readings';
import type { KeyValue } from '../data/values';
import { english } from '../messages/locale';
import { type Emphasis, markStates } from '../pipeline/emphasise';
import { keyText } from '../words/key-text';
import type { ValueColumns } from './value-columns';

/** What the columns are called, and what else than the shown figure belongs to each reading. */
export interface ReadingColumns extends ValueColumns {
  others: { name: string; measure: Measure }[];
}

/** The readings of a chart row by row, with a name for each column. Missing figures are null. */
export interface ReadingsTable {
  names: string[];
  rows: KeyValue[][];
}

const number = (value: number | undefined) => (value === undefined || Number.isNaN(value) ? null : value);

/** The readings of a chart in its order, with the state of each mark last. */
export function readingsTable(
  readings: Readings,
  emphasis: Emphasis,
  columns: ReadingColumns,
): ReadingsTable {
  const { by, split, measure, others } = columns;
  const figures = others.map((other) => measuredBy(other.measure, readings).value);
  const order = Array.from(readings.place.keys()).sort(
    (a, b) => readings.place[a]! - readings.place[b]! || readings.seriesOf[a]! - readings.seriesOf[b]!,
  );
  const key = (value: KeyValue) => (value === restCategory ? keyText(value, english) : value);
  return {
    names: [by, ...(split ? [split] : []), measure, ...others.map(({ name }) => name), 'state'],
    rows: order.map((i) => [
      key(readings.category[i]!),
      ...(split ? [key(readings.series[readings.seriesOf[i]!] ?? null)] : []),
      number(readings.value[i]),
      ...figures.map((values) => number(values[i])),
      markStates[emphasis.state[i]!]!,
    ]),
  };
}
