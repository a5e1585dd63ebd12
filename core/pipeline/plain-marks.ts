import type { KeyValue } from '../data/values';
import { type MarkState, markStates, stateCode } from './emphasise';
import type { ChartResult } from './stage';

/** A mark as plain data. */
export interface PlainMark {
  category: KeyValue;
  /** Its series; left out where the chart has none. */
  series?: KeyValue;
  /** Null where there is none. */
  value: number | null;
  state: MarkState;
}

const markOf = ({ readings, emphasis }: ChartResult, i: number): PlainMark => {
  const value = readings.value[i]!;
  const series = readings.series[readings.seriesOf[i]!];
  return {
    category: readings.category[i]!,
    ...(series === undefined ? {} : { series }),
    value: Number.isNaN(value) ? null : value,
    state: markStates[emphasis.state[i]!]!,
  };
};

/** All marks of a chart, in its order. */
export const plainMarks = (result: ChartResult): PlainMark[] =>
  Array.from({ length: result.readings.length }, (_, i) => markOf(result, i));

/** The marks that are lit. */
export function litMarks(result: ChartResult): PlainMark[] {
  const lit: PlainMark[] = [];
  const { state } = result.emphasis;
  for (let i = 0; i < state.length; i++) if (state[i] === stateCode.lit) lit.push(markOf(result, i));
  return lit;
}
