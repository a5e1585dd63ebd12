import type { Measure } from '../board/measure';
import type { MarkKeys } from '../conditions/condition-kind';
import type { Readings } from '../cube/readings';
import type { Stand } from '../levers/standing';
import type { Rows, Scope } from './compiled';
import type { Value, ValueType } from './expression';
import { type LeverNames, leverReader, leverScope } from './lever-gift';

/** What a mark formula speaks of: the category, the series and the measure of a reading, by the names of their fields. */
export interface MarkNames extends MarkKeys, LeverNames {
  measure?: Measure | undefined;
}

const own = 'value';

/** The names that mean something in a mark formula. */
export function markScope({ by, split, measure, typeOf, lever, levers }: MarkNames): Scope {
  const columns = new Map<string, { ref: string; type: ValueType }>([[own, { ref: own, type: 'number' }]]);
  if (measure?.field) columns.set(measure.field, { ref: own, type: 'number' });
  columns.set(by.field, { ref: 'by', type: typeOf(by) });
  if (split) columns.set(split.field, { ref: 'split', type: typeOf(split) });
  return {
    column: (name) => columns.get(name) ?? columns.get(name.toLowerCase()),
    names: () => [...columns.keys()],
    ...leverScope({ lever, levers, typeOf }),
    windows: true,
  };
}

/** The readings of a chart as the rows of a formula. */
export function markRows(readings: Readings, names: LeverNames, stand: Stand, today: string): Rows {
  const columns: Record<string, (index: number) => Value> = {
    value: (i) => (Number.isNaN(readings.value[i]!) ? null : readings.value[i]!),
    by: (i) => readings.category[i]!,
    split: (i) => readings.series[readings.seriesOf[i]!] ?? null,
  };
  return {
    length: readings.length,
    column: (ref) => columns[ref]!,
    lever: leverReader(names, stand),
    today,
  };
}
