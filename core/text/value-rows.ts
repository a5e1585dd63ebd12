import { say } from '../messages/say';
import { markStates } from '../pipeline/emphasise';
import type { ChartResult } from '../pipeline/stage';
import type { Vocabulary } from '../words/vocabulary';
import { valueColumns } from './value-columns';

/** The values of a chart as a table that can be read and heard: one row for each mark, in the chart's order. */
export interface ValueRows {
  head: readonly string[];
  rows: readonly { cells: readonly string[]; state: (typeof markStates)[number] }[];
  /** How many more there are than are listed. */
  more: number;
}

/** A longer table is for a file: a page of so many rows takes long to lay out. */
export const mostRows = 1000;

/** What is shown, row by row, with its state. */
export function valueRows(output: ChartResult, words: Vocabulary): ValueRows {
  const { readings, emphasis, labels, seriesNames, chart } = output;
  const { place, seriesOf, length } = readings;
  const { by, split, measure } = valueColumns(chart, words);
  const order = Array.from(place.keys()).sort((a, b) => place[a]! - place[b]! || seriesOf[a]! - seriesOf[b]!);
  return {
    head: [by, ...(split ? [split] : []), measure, say(words.locale, 'column.state')],
    rows: order.slice(0, mostRows).map((i) => {
      const state = markStates[emphasis.state[i]!]!;
      const series = split ? [seriesNames[seriesOf[i]!] ?? ''] : [];
      return {
        cells: [labels[place[i]!] ?? '', ...series, output.exact(i), say(words.locale, 'state', { state })],
        state,
      };
    }),
    more: Math.max(0, length - mostRows),
  };
}
