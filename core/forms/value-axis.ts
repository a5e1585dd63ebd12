import type { ScaleName } from '../board/axis';
import { axisTicks, niceEnds } from './axis-ticks';
import type { SceneLine, SceneText, ValueAxis } from './scene';

/** The values that an axis is to show, and how. */
export interface AxisRange {
  low: number;
  high: number;
  /** The author has fixed this end: it is not rounded. */
  keepsLow?: boolean;
  keepsHigh?: boolean;
  scale: ScaleName;
}

/** The range an axis shows, to round figures where `count` ticks are wanted; 0 to 1 when there is nothing to show. */
export function domainOf(range: AxisRange, count = 0): [number, number] {
  const { low, high } = range;
  if (range.scale === 'log' && !(low > 0 && high > low)) return low > 0 ? [low / 10, low * 10] : [1, 10];
  if (low === high) return low === 0 ? [0, 1] : low > 0 ? [Math.min(0, low), high] : [low, Math.max(0, high)];
  if (!count) return [low, high];
  const [from, to] = niceEnds(range.scale, low, high, count);
  return [range.keepsLow ? low : from, range.keepsHigh ? high : to];
}

/** Round figures along an axis; on a log axis powers of ten, and their doubles and halves where there is room. */
export function ticksOf(axis: Pick<ValueAxis, 'scale' | 'domain'>, count: number): number[] {
  const ticks = axisTicks(axis.scale, ...axis.domain, count);
  if (axis.scale !== 'log' || ticks.length <= count) return ticks;
  const rounded = (of: readonly number[]) =>
    ticks.filter((tick) => of.includes(Math.round(tick / 10 ** Math.floor(Math.log10(tick) + 1e-9))));
  const round = [rounded([1, 2, 5]), rounded([1, 3]), rounded([1])].find(
    (some) => some.length <= count * 1.5,
  );
  if (round && round.length > 1) return round;
  const powers = rounded([1]);
  const every = Math.ceil(powers.length / count);
  return powers.length > 1 ? powers.filter((_, i) => i % every === 0) : ticks;
}

/** How far a value is along its axis: 0 at its start, 1 at its end. On a log axis what is not above 0 is nowhere: NaN. */
export function shareOn({ scale, domain: [low, high] }: Pick<ValueAxis, 'scale' | 'domain'>, value: number) {
  if (scale === 'log') return value > 0 ? Math.log(value / low) / Math.log(high / low) : Number.NaN;
  return (value - low) / (high - low);
}

/** Where a value stands on its axis, px; outside of the plot where the axis does not reach. */
export const positionOn = (axis: ValueAxis, value: number): number =>
  axis.start + shareOn(axis, value) * (axis.end - axis.start);

/** The same as a function of many values: on an even axis a product and a sum. */
export function positionsOn(axis: ValueAxis): (value: number) => number {
  if (axis.scale === 'log') return (value) => positionOn(axis, value);
  const [low, high] = axis.domain;
  const unit = (axis.end - axis.start) / (high - low);
  const { start } = axis;
  return (value) => start + (value - low) * unit;
}

/** The same, held at the ends of the axis: for bars, which begin and end within the plot. */
export function heldOn(axis: ValueAxis, value: number): number {
  const share = shareOn(axis, value);
  // On a log axis zero lies infinitely far below.
  return axis.start + Math.max(0, Math.min(1, Number.isNaN(share) ? 0 : share)) * (axis.end - axis.start);
}

/** Whether a value lies on what the axis shows. */
export const isOn = ({ domain: [low, high] }: Pick<ValueAxis, 'domain'>, value: number): boolean =>
  value >= low && value <= high;

/** The value at a place along the axis, px, within its domain. */
export function valueOn({ scale, domain: [low, high], start, end }: ValueAxis, px: number): number {
  const share = Math.max(0, Math.min(1, (px - start) / (end - start)));
  return scale === 'log' ? low * (high / low) ** share : low + share * (high - low);
}

type Across = Pick<SceneLine, 'x1' | 'y1' | 'x2' | 'y2'>;

/**
 * The line across the plot at a value, and where its label stands: above its end, or where the plot goes out of sight,
 * `sight` px along; or beside its head.
 */
export function alongValues(
  axis: ValueAxis,
  value: number,
  sight: number,
): { line: Across; labelX: number; labelY: number; anchor: SceneText['anchor'] } {
  const at = positionOn(axis, value);
  if (axis.direction === 'y')
    return {
      line: { x1: axis.crossStart, x2: axis.crossEnd, y1: at, y2: at },
      labelX: Math.min(axis.crossEnd, sight) - 4,
      labelY: at - 9,
      anchor: 'end',
    };
  const pastMiddle = at > (axis.start + axis.end) / 2;
  return {
    line: { x1: at, x2: at, y1: axis.crossStart - 16, y2: axis.crossEnd },
    labelX: pastMiddle ? at - 5 : at + 5,
    labelY: axis.crossStart - 9,
    anchor: pastMiddle ? 'end' : 'start',
  };
}
