import { type Dimension, sameDimension } from '../data/dimension';
import { restCategory } from '../data/kept-categories';
import type { Readings } from '../data/readings';
import type { TouchValues } from './lever-kind';
import { kindOf, type Lever } from './registry';

interface MarkDimensions {
  by: Dimension;
  split?: Dimension | undefined;
}

/** What of a mark a lever takes: its category, or its series where the lever stands on that. */
export function dimensionTaken(lever: Lever, { by, split }: MarkDimensions): Dimension {
  const source = kindOf(lever).source?.(lever);
  return source && split && !sameDimension(source, by) && sameDimension(source, split) ? split : by;
}

/** What the marks from one to another give a lever: the values of the places between them, or their series. */
export function touchValues(
  lever: Lever,
  dimensions: MarkDimensions,
  readings: Readings,
  from: number,
  to = from,
): TouchValues {
  const by = dimensionTaken(lever, dimensions);
  const figure = readings.value[to] ?? Number.NaN;
  if (by !== dimensions.by) {
    const ends = [from, to].map((index) => readings.series[readings.seriesOf[index]!]!);
    return { values: [...new Set(ends)], by, figure };
  }
  const places = [readings.place[Math.max(0, from)]!, readings.place[Math.max(0, to)]!];
  const values = readings.places
    .slice(Math.min(...places), Math.max(...places) + 1)
    // All others together are no value that a lever could hold.
    .filter((value) => value !== restCategory);
  return { values: from > to ? [...values].reverse() : values, by, figure };
}
