import type { Ends, Readings } from '../data/readings';
import { manyBars } from './form-kind';
import type { Slots, ValueAxis } from './scene';
import { isOn } from './value-axis';

/**
 * Shares each place of the axis among the series; of more than `most` marks only whole places are drawn. `alone`: each
 * place is a series of its own, and no place is shared.
 */
export function slotsOf(
  readings: Readings,
  most = Number.POSITIVE_INFINITY,
  stacked = false,
  alone = false,
): Slots {
  const per = alone ? 1 : Math.max(1, readings.series.length);
  const places = Math.min(readings.places.length, Math.floor(most / per));
  const at = new Int32Array(places * per).fill(-1);
  let omitted = 0;
  for (let i = 0; i < readings.length; i++) {
    const place = readings.place[i]!;
    if (place < places) at[place * per + (alone ? 0 : readings.seriesOf[i]!)] = i;
    else omitted++;
  }
  return { places, per, stacked, alone, at, omitted };
}

/** A rectangle per reading, none of them drawn yet. */
export const emptyRects = (readings: Readings, { places, per, alone }: Slots) => {
  const n = per === 1 && !alone ? places : readings.length;
  const list = () => new Float64Array(n).fill(Number.NaN);
  return { x: list(), y: list(), width: list(), height: list(), hitFrom: list(), hitTo: list() };
};

/** How many marks stand side by side at a place. */
export const abreast = ({ per, stacked }: Slots): number => (stacked ? 1 : per);

/** The muted part of each place, from where its marks end up to its whole, as values. */
export function restsOf(
  { places, per, at }: Slots,
  { to }: Ends,
  wholes: Float64Array | null,
): { place: number; from: number; to: number }[] {
  if (!wholes) return [];
  return Array.from({ length: places }, (_, place) => {
    const ends = Array.from(at.subarray(place * per, (place + 1) * per), (i) => (i < 0 ? 0 : to[i]!));
    return { place, from: Math.max(0, ...ends.filter((end) => !Number.isNaN(end))), to: wholes[place]! };
  }).filter(({ from, to }) => from < to);
}

/** How many readings end where an axis does not reach. */
export function beyondOf(
  { to }: Pick<Ends, 'to'>,
  axis: ValueAxis,
  axisOf: (index: number) => ValueAxis = () => axis,
): number {
  let count = 0;
  for (let i = 0; i < to.length; i++) if (!Number.isNaN(to[i]!) && !isOn(axisOf(i), to[i]!)) count++;
  return count;
}

/** The least room that a place takes: where there are very many, all of them together no more than a good many would. */
export const leastStep = (least: number, places: number, per: number): number =>
  places * per > manyBars ? Math.min(least, (least * manyBars) / (places * per)) : least;

/** Of many texts some, evenly spread, by which their room is measured. */
export function sampleOf(count: number, textAt: (index: number) => string, most = 200): string[] {
  const stride = Math.max(1, Math.ceil(count / most));
  return Array.from({ length: Math.ceil(count / stride) }, (_, i) => textAt(i * stride));
}
