import type { Category } from '../board/category';
import { axisPlace, axisValue } from '../data/axis-place';
import type { KeyValue } from '../data/values';
import type { BandAxis } from '../forms/scene';
import type { Interval } from '../levers/lever-kind';

/** The stretch of the band axis that an interval covers, px. */
export function stretchOfInterval(
  { from, to }: Interval,
  band: BandAxis,
  places: readonly KeyValue[],
  by: Category,
): { start: number; end: number } {
  const at = (value: KeyValue, edge: 'from' | 'to') =>
    band.start + Math.min(band.count, axisPlace(value, edge, places, by)) * band.step;
  return { start: at(from, 'from'), end: at(to, 'to') };
}

/** The day, or the number, at a place on the band axis, px; null where there are no bands. */
export const valueAtPlace = (
  px: number,
  band: BandAxis,
  places: readonly KeyValue[],
  by: Category,
): KeyValue => axisValue((px - band.start) / band.step, places, by, band.count);
