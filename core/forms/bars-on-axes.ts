import { stepLength } from '../data/all-steps';
import type { Ends, Readings } from '../data/readings';
import type { BandAxis, Box, RectMarks, Slots, ValueAxis } from './scene';
import { emptyRects, restsOf } from './slots';
import { heldOn } from './value-axis';

/** A short bar can still be hit this far from its foot, px. */
const minHit = 28;

/** What bars are laid out from. */
export interface BarsInput {
  readings: Readings;
  ends: Ends;
  slots: Slots;
  /** Per place what its bar is filled up to, NaN for nothing; null where none is. */
  wholes: Float64Array | null;
}

/** Where bars stand: along which places, and on which axis each series is measured. */
export interface BarAxes {
  band: BandAxis;
  values: ValueAxis;
  axisOf?(series: number): ValueAxis;
  /** Room of one among several at a place, and how thick a bar is within it, px. */
  slot: number;
  thickness: number;
  /** Where the names of places stand on the value axis, px: a bar can be pointed at from there on. */
  namesAt: number;
}

/** A bar of a reading, px: its middle on the band, and where it begins and ends on the value axis. */
export interface PlacedBar {
  index: number;
  middle: number;
  start: number;
  end: number;
  zero: number;
}

/** Bars, lying or standing: the same but for which of their axes lies and which stands. */
export interface BarsOnAxes {
  marks: RectMarks;
  /** The bars that are drawn, in the order of their slots. */
  bars: PlacedBar[];
}

/** Lays bars out on a band and a value axis, in steps. */
export function* barsOnAxes(
  { readings, ends, slots, wholes }: BarsInput,
  axes: BarAxes,
): Generator<void, BarsOnAxes> {
  const { band, values, axisOf = () => values, slot, thickness, namesAt } = axes;
  const { per, stacked, at } = slots;
  const abreast = stacked ? 1 : per;
  const lying = band.direction === 'y';
  const rising = Math.sign(values.end - values.start);
  const middleOf = (place: number) => band.start + band.step * (place + 0.5);
  const box = (middle: number, across: number, from: number, to: number): Box => {
    const [low, length] = [Math.min(from, to), Math.abs(to - from)];
    return lying
      ? { x: low, y: middle - thickness / 2, width: length, height: across }
      : { x: middle - thickness / 2, y: low, width: across, height: length };
  };

  const { hitFrom, hitTo, x, y, width, height } = emptyRects(readings, slots);
  const bars: PlacedBar[] = [];
  for (let where = 0; where < at.length; where++) {
    if (where % stepLength === stepLength - 1) yield;
    const index = at[where]!;
    if (index < 0) continue;
    const missing = Number.isNaN(ends.to[index]!);
    const own = axisOf(readings.seriesOf[index]!);
    const zero = heldOn(own, 0);
    const start = missing ? zero : heldOn(own, ends.from[index]!);
    const end = missing ? zero : heldOn(own, ends.to[index]!);
    const beside = (where % abreast) - (abreast - 1) / 2;
    const middle = middleOf(Math.floor(where / per)) + beside * slot;
    const rect = box(middle, missing ? 0 : thickness, start, end);
    x[index] = rect.x;
    y[index] = rect.y;
    width[index] = rect.width;
    height[index] = rect.height;
    // The name of its place belongs to a bar that stands alone there.
    const far = rising > 0 ? Math.max(end, zero + minHit) : Math.min(end, zero - minHit);
    const [hitStart, hitEnd] = stacked ? [start, end] : [namesAt, far];
    hitFrom[index] = Math.min(hitStart, hitEnd);
    hitTo[index] = Math.max(hitStart, hitEnd);
    bars.push({ index, middle, start, end, zero });
  }
  const rests = restsOf(slots, ends, wholes).map(({ place, from, to }) =>
    box(middleOf(place), thickness, heldOn(values, from), heldOn(values, to)),
  );
  return { marks: { shape: 'rects', x, y, width, height, hitFrom, hitTo, slots, rests }, bars };
}
