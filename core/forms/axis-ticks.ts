import { tickIncrement, ticks } from 'd3-array';
import type { ScaleName } from '../board/axis';

/** A power of ten as it is written: `10 ** -5` is not exactly 1e-5. */
const powerOfTen = (exponent: number): number => Number(`1e${exponent}`);

/** So often ends are rounded until the step between ticks stays the same; where it never does, they are left as they are. */
const mostRoundings = 10;

/** Multiples of the step between ticks; one below 1 is given as minus its reciprocal (`tickIncrement`). */
function evenEnds(low: number, high: number, count: number): [number, number] {
  let [from, to] = [low, high];
  let before = 0;
  for (let rounding = 0; rounding < mostRoundings; rounding++) {
    const step = tickIncrement(from, to, count);
    if (step === before) return [from, to];
    if (step > 0) [from, to] = [Math.floor(from / step) * step, Math.ceil(to / step) * step];
    else [from, to] = [Math.ceil(from * step) / step, Math.floor(to * step) / step];
    before = step;
  }
  return [low, high];
}

/** The ends of an axis as round figures, where about `count` ticks are wanted; on a log axis powers of ten. */
export function niceEnds(scale: ScaleName, low: number, high: number, count: number): [number, number] {
  if (scale !== 'log') return evenEnds(low, high, count);
  return [powerOfTen(Math.floor(Math.log10(low))), powerOfTen(Math.ceil(Math.log10(high)))];
}

/** Round figures along a log axis: the multiples of powers of ten, or the powers alone where those are many. */
function logTicks(low: number, high: number, count: number): number[] {
  const [from, to] = [Math.log10(low), Math.log10(high)];
  if (!(to - from < count)) return ticks(from, to, Math.min(to - from, count)).map(powerOfTen);
  const found: number[] = [];
  for (let exponent = Math.floor(from); exponent <= Math.ceil(to); exponent++)
    for (let digit = 1; digit < 10; digit++) {
      const tick = exponent < 0 ? digit / powerOfTen(-exponent) : digit * powerOfTen(exponent);
      if (tick >= low && tick <= high) found.push(tick);
    }
  // Of less than one power there are few multiples.
  return found.length * 2 < count ? ticks(low, high, count) : found;
}

/** About so many round figures along an axis. */
export const axisTicks = (scale: ScaleName, low: number, high: number, count: number): number[] =>
  scale === 'log' ? logTicks(low, high, count) : ticks(low, high, count);
