import type { Chart } from '../board/chart';
import { compareKeys, type KeyValue } from '../values';
import { cellMask } from './cell-mask';
import type { Cube } from './cube';
import { measureAtoms, measureValue } from './measure-atoms';
import { rollUp } from './roll-up';
import type { RowFilter } from './row-filter';

/** The aggregated rows of a chart, in its order. */
export interface Readings {
  length: number;
  category: readonly KeyValue[];
  /** The measure per reading; NaN is null. */
  value: Float64Array;
}

type Ordered = Pick<Chart, 'by' | 'measure' | 'order'>;

/** Figures in the order asked for; null is last either way. */
function compareNumbers(a: number, b: number, sign: number): number {
  const aMissing = Number.isNaN(a);
  const bMissing = Number.isNaN(b);
  if (aMissing || bMissing) return Number(aMissing) - Number(bMissing);
  return sign * (a - b);
}

/** Filters a cube and rolls it up into a chart's readings. Equal figures stand in the order of their categories. */
export function readingsOf(cube: Cube, chart: Ordered, filters: readonly RowFilter[]): Readings {
  const wanted = measureAtoms(chart.measure);
  const byPlace = chart.order.by === 'data';
  const rolled = rollUp(
    cube,
    chart.by,
    byPlace ? [...wanted, { aggregate: 'first' }] : wanted,
    cellMask(cube, filters),
  );
  const { categories, atoms } = rolled;
  const value = Float64Array.from(categories, (_, i) =>
    measureValue(
      chart.measure,
      atoms.map((atom) => atom[i]!),
    ),
  );
  const place = byPlace ? atoms[wanted.length]! : null;

  const sign = chart.order.direction === 'ascending' ? 1 : -1;
  const byKey = (a: number, b: number) => compareKeys(categories[a]!, categories[b]!);
  const compare = {
    value: (a: number, b: number) => compareNumbers(value[a]!, value[b]!, sign) || byKey(a, b),
    key: (a: number, b: number) =>
      categories[a] === null || categories[b] === null ? byKey(a, b) : sign * byKey(a, b),
    data: (a: number, b: number) => compareNumbers(place![a]!, place![b]!, sign),
  }[chart.order.by];
  const order = categories.map((_, i) => i).sort(compare);
  return {
    length: order.length,
    category: order.map((i) => categories[i]!),
    value: Float64Array.from(order, (i) => value[i]!),
  };
}
