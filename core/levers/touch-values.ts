import { type FieldCut, sameCut } from '../data/grain';
import type { Readings } from '../data/readings';
import type { TouchValues } from './lever-kind';
import { kindOf, type Lever } from './registry';

interface MarkCuts {
  by: FieldCut;
  split?: FieldCut | undefined;
}

/** What of a mark a lever takes: its category, or its series where the lever stands on that. */
export function cutTaken(lever: Lever, { by, split }: MarkCuts): FieldCut {
  const source = kindOf(lever).source?.(lever);
  return source && split && !sameCut(source, by) && sameCut(source, split) ? split : by;
}

/** What the marks from one to another give a lever: the values of the places between them, or their series. */
export function touchValues(
  lever: Lever,
  cuts: MarkCuts,
  readings: Readings,
  from: number,
  to = from,
): TouchValues {
  const by = cutTaken(lever, cuts);
  const figure = readings.value[to] ?? Number.NaN;
  if (by !== cuts.by) {
    const ends = [from, to].map((index) => readings.series[readings.seriesOf[index]!]!);
    return { values: [...new Set(ends)], by, figure };
  }
  const places = [readings.place[Math.max(0, from)]!, readings.place[Math.max(0, to)]!];
  const values = readings.places.slice(Math.min(...places), Math.max(...places) + 1);
  return { values: from > to ? [...values].reverse() : values, by, figure };
}
