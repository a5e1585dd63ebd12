import type { Order } from '../board/chart';
import type { Readings } from '../cube/readings';
import type { Interval } from '../levers/lever-kind';
import { compareKeys } from '../values';

/** The first index of a list, rising by `after`, from which `after(index)` holds. */
function firstWhere(length: number, after: (index: number) => boolean): number {
  let low = 0;
  let high = length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (after(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}

/**
 * The readings whose category lies in a stretch, both ends included. In the order of their categories that is a slice,
 * found by halving however long the axis is; in another order every reading is looked at.
 */
export function readingsInView(readings: Readings, order: Order, { from, to }: Interval): Readings {
  const { category, value } = readings;
  if (order.by === 'key') {
    let count = readings.length;
    while (count > 0 && category[count - 1] === null) count--;
    const rising = order.direction === 'ascending';
    const start = firstWhere(count, (i) =>
      rising ? compareKeys(category[i]!, from) >= 0 : compareKeys(category[i]!, to) <= 0,
    );
    const end = firstWhere(count, (i) =>
      rising ? compareKeys(category[i]!, to) > 0 : compareKeys(category[i]!, from) < 0,
    );
    return {
      length: Math.max(0, end - start),
      category: category.slice(start, Math.max(start, end)),
      value: value.slice(start, Math.max(start, end)),
    };
  }
  const kept: number[] = [];
  for (let i = 0; i < readings.length; i++) {
    const key = category[i]!;
    if (key !== null && compareKeys(key, from) >= 0 && compareKeys(key, to) <= 0) kept.push(i);
  }
  return {
    length: kept.length,
    category: kept.map((i) => category[i]!),
    value: Float64Array.from(kept, (i) => value[i]!),
  };
}
