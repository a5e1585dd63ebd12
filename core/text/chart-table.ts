import { english } from '../messages/locale';
import { againstOf } from '../pipeline/chart-rules';
import type { ChartResult } from '../pipeline/stage';
import { measureText } from '../words/measure-text';
import { vocabularyOf } from '../words/vocabulary';
import { type ReadingsTable, readingsTable } from './readings-table';
import { valueColumns } from './value-columns';

/** The values of a chart as they stand on it, for a file. Columns have English names whatever the board speaks: programs read them. */
export function chartTable({ input, readings, emphasis }: ChartResult): ReadingsTable {
  const { board, dataset, engine, chart } = input;
  const words = vocabularyOf({ ...board, levers: [] }, dataset, engine, english);
  const against = againstOf(chart);
  return readingsTable(readings, emphasis, {
    ...valueColumns(chart, words),
    others: against ? [{ name: measureText(against, words), measure: against }] : [],
  });
}
