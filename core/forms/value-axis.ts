import { scaleLinear } from 'd3-scale';
import type { SceneLine, SceneText, ValueAxis } from './scene';

/** The range a value axis shows: 0 to 1 when there is nothing to show. */
export const valueDomain = ([low, high]: readonly [number, number]): [number, number] =>
  low === high ? [0, 1] : [low, high];

export const niceDomain = (domain: readonly [number, number], count: number): [number, number] =>
  scaleLinear().domain(domain).nice(count).domain() as [number, number];

export const ticksOf = (domain: readonly [number, number], count: number): number[] =>
  scaleLinear().domain(domain).ticks(count);

/** Where a value stands on its axis, px. */
export function positionOn(axis: ValueAxis, value: number): number {
  const [low, high] = axis.domain;
  return axis.start + ((value - low) / (high - low)) * (axis.end - axis.start);
}

/** The value at a place along the axis, px, within its domain. */
export function valueOn(axis: ValueAxis, px: number): number {
  const [low, high] = axis.domain;
  const share = (px - axis.start) / (axis.end - axis.start);
  return low + Math.max(0, Math.min(1, share)) * (high - low);
}

type Across = Pick<SceneLine, 'x1' | 'y1' | 'x2' | 'y2'>;

/** The line across the plot at a value, and where its label stands: above its end, or beside its head. */
export function alongValues(
  axis: ValueAxis,
  value: number,
): { line: Across; labelX: number; labelY: number; anchor: SceneText['anchor'] } {
  const at = positionOn(axis, value);
  if (axis.direction === 'y')
    return {
      line: { x1: axis.crossStart, x2: axis.crossEnd, y1: at, y2: at },
      labelX: axis.crossEnd - 4,
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
