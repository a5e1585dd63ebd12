import type { Edges } from '../forms/edges';
import type { Scene } from '../forms/scene';
import type { Brush } from './stage';

/** Half of a grip along the edge of a stretch and across it, and half of the edge's width, px. */
const half = { along: 13, across: 7, edge: 1 } as const;

/** The boxes of a brushed stretch's edges, and of the grips in their middle: nothing is written over them. */
export function gripsOf(brush: Brush | null, { values, band }: Scene): Edges[] {
  if (!brush?.stretch) return [];
  const ends = [values.start, values.end] as const;
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const middle = (low + high) / 2;
  const box = (at: number, across: number, from: number, to: number): Edges =>
    band.direction === 'x'
      ? { left: at - across, right: at + across, top: from, bottom: to }
      : { left: from, right: to, top: at - across, bottom: at + across };
  const { start, end } = brush.stretch;
  return [start, end].flatMap((at) => [
    box(at, half.across, middle - half.along, middle + half.along),
    box(at, half.edge, low, high),
  ]);
}
