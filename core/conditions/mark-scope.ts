import type { Rows, Scope } from '@sorvik/formula/compiled';
import type { Value, ValueType } from '@sorvik/formula/expression';
import { type Measure, measureKey } from '../board/measure';
import type { Readings } from '../data/readings';
import { type LeverNames, leverReader, leverScope } from '../levers/formula-levers';
import type { PositionLookup } from '../levers/lever-kind';
import type { MarkKeys } from './condition-kind';

/** What a mark formula speaks of: the category, the series and the measures of a reading, by the names of their fields. */
export interface MarkNames extends MarkKeys, LeverNames {
  measure?: Measure | undefined;
}

const own = 'value';

/** A measure as a formula can name it: `delay`, `row_count`, `with_the_change`. */
export function measureName({ aggregate, field, name, text = '' }: Measure): string {
  if (aggregate !== 'formula') return field ?? 'row_count';
  return (name ?? text)
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '_')
    .replace(/^_+|_+$/g, '');
}

/** The further measures of a chart that a formula can name, each by a name that nothing else has. */
function furtherMeasureNames({ measure, by, split, against, also = [] }: MarkNames): Map<string, Measure> {
  const taken = new Set([own, by.field, split?.field, measure?.field]);
  const named = new Map<string, Measure>();
  for (const other of [...(against ? [against] : []), ...(split ? [] : also.map((each) => each.measure))]) {
    const name = measureName(other);
    if (name && !taken.has(name)) named.set(name, other);
    taken.add(name);
  }
  return named;
}

/** The names that mean something in a mark formula. */
export function markScope(names: MarkNames): Scope {
  const { by, split, measure, typeOf } = names;
  const columns = new Map<string, { ref: string; type: ValueType }>([[own, { ref: own, type: 'number' }]]);
  if (measure?.field) columns.set(measure.field, { ref: own, type: 'number' });
  for (const [name, other] of furtherMeasureNames(names))
    columns.set(name, { ref: measureKey(other), type: 'number' });
  columns.set(by.field, { ref: 'by', type: typeOf(by) });
  if (split) columns.set(split.field, { ref: 'split', type: typeOf(split) });
  return {
    column: (name) => columns.get(name) ?? columns.get(name.toLowerCase()),
    names: () => [...columns.keys()],
    ...leverScope(names),
    windows: true,
  };
}

const nothing = new Float64Array(0);

/** The readings of a chart as the rows of a formula. */
export function markRows(
  readings: Readings,
  names: LeverNames,
  positionOf: PositionLookup,
  today: string,
): Rows {
  const figure = (values: Float64Array) => (i: number) => {
    const value = values[i] ?? Number.NaN;
    return Number.isNaN(value) ? null : value;
  };
  const columns: Record<string, (index: number) => Value> = {
    value: figure(readings.value),
    by: (i) => readings.category[i]!,
    split: (i) => readings.series[readings.seriesOf[i]!] ?? null,
  };
  return {
    length: readings.length,
    column: (ref) => columns[ref] ?? figure(readings.others.get(ref) ?? nothing),
    lever: leverReader(names, positionOf),
    today,
  };
}
