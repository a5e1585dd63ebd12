import { scaleLinear } from 'd3-scale';
import type { SceneLine, SceneText, ValueAxis } from './scene';

/** The range a value axis shows: all figures and zero; 0 to 1 when there is nothing else to show. */
export function valueDomain(values: Float64Array, figures: readonly number[]): [number, number] {
  let low = 0;
  let high = 0;
  for (const value of [...values, ...figures]) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return low === high ? [0, 1] : [low, high];
}

export const niceDomain = (domain: readonly [number, number], count: number): [number, number] =>
  scaleLinear().domain(domain).nice(count).domain() as [number, number];

export const ticksOf = (domain: readonly [number, number], count: number): number[] =>
  scaleLinear().domain(domain).ticks(count);

/** Where a value stands on its axis, px. */
export function positionOn(axis: ValueAxis, value: number): number {
  const [low, high] = axis.domain;
  return axis.start + ((value - low) / (high - low)) * (axis.end - axis.start);
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
