import type { Ends, Readings } from '../data/readings';
import { type FormInput, manyBars } from './form-kind';
import type { Slots, ValueAxis } from './scene';
import { isOn } from './value-axis';

/**
 * Shares each place of the axis among the series. `alone`: each place is a series of its own, and no place is shared.
 */
export function slotsOf(readings: Readings, stacked = false, alone = false): Slots {
  const per = alone ? 1 : Math.max(1, readings.series.length);
  const places = readings.places.length;
  const at = new Int32Array(places * per).fill(-1);
  for (let i = 0; i < readings.length; i++)
    at[readings.place[i]! * per + (alone ? 0 : readings.seriesOf[i]!)] = i;
  return { places, per, stacked, alone, at };
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

/** So many figures are written to find out how much room they take. */
const fewFigures = 200;

/** Of the figures of many marks those by which their room is measured: the highest, the lowest, and some evenly between. */
export function figuresOf(
  marks: ArrayLike<number>,
  { readings: { value }, valueText }: Pick<FormInput, 'readings' | 'valueText'>,
): string[] {
  const stride = Math.max(1, Math.ceil(marks.length / fewFigures));
  const shown = Array.from({ length: Math.ceil(marks.length / stride) }, (_, i) => marks[i * stride]!);
  if (stride > 1) {
    let [low, high] = [marks[0]!, marks[0]!];
    for (let k = 0; k < marks.length; k++) {
      if (!(value[marks[k]!]! >= value[low]!)) low = marks[k]!;
      if (!(value[marks[k]!]! <= value[high]!)) high = marks[k]!;
    }
    shown.push(low, high);
  }
  return shown.map((i) => valueText(i));
}
