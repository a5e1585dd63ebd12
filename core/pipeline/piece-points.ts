import { bisectLeft } from 'd3-array';
import type { Readings } from '../data/readings';
import type { PointMarks, Scene } from '../forms/scene';
import { condensedLine } from './condensed-line';
import { leadsOn, type Piece } from './line-states';

/** A line as pieces without a gap, each a flat list of its points: x, y, x, y .. px. */
export type Polylines = number[][];

/** The whole line of a series, or the base of its ground, broken where a reading is missing. */
export function linePoints(
  { marks }: Scene,
  readings: Readings,
  series: number,
  of: 'y' | 'base' = 'y',
): Polylines {
  const { x, y, base } = marks as PointMarks;
  const at = of === 'y' ? y : base!;
  const runs: Polylines = [];
  let run: number[] = [];
  const end = readings.starts[series + 1]!;
  for (let i = readings.starts[series]!; i < end; i++) {
    const broken = Number.isNaN(y[i]!);
    if (run.length && (broken || !leadsOn(readings, i - 1, i))) {
      runs.push(condensedLine(run));
      run = [];
    }
    if (!broken) run.push(x[i]!, at[i]!);
  }
  if (run.length) runs.push(condensedLine(run));
  return runs;
}

/**
 * The line of a series over a stretch of places, `from` to before `to`, with a point beyond each end where the line leads
 * on: px along from the middle of place `from`, and up on the axis.
 */
export function trackPoints(
  readings: Readings,
  series: number,
  { from, to, step }: { from: number; to: number; step: number },
  position: (value: number) => number,
): Polylines {
  const { place, value, starts } = readings;
  const runs: Polylines = [];
  let run: number[] = [];
  const end = starts[series + 1]!;
  const first = bisectLeft(place, from, starts[series]!, end);
  for (let i = Math.max(starts[series]!, first - 1); i < end; i++) {
    const missing = Number.isNaN(value[i]!);
    if (run.length && (missing || !leadsOn(readings, i - 1, i))) {
      runs.push(condensedLine(run));
      run = [];
    }
    if (!missing) run.push((place[i]! - from) * step, position(value[i]!));
    if (place[i]! >= to) break;
  }
  if (run.length) runs.push(condensedLine(run));
  return runs;
}

/**
 * A lit piece of a line, or of the base of its ground: its ends are where they fall between two readings, on the straight
 * line that joins them.
 */
export function piecePoints(
  { marks, band }: Scene,
  readings: Readings,
  { from, to, reading }: Piece,
  of: 'y' | 'base' = 'y',
): number[] {
  const { x, y, base } = marks as PointMarks;
  const at = of === 'y' ? y : base!;
  const along = (place: number) => band.start + place * band.step;
  const between = (place: number, before: number): number => {
    const share = place - (readings.place[before]! + 0.5);
    if (share === 0) return at[before]!;
    const apart = readings.place[before + 1]! - readings.place[before]!;
    return at[before]! + (share / apart) * (at[before + 1]! - at[before]!);
  };
  const points = [along(from), between(from, reading)];
  let last = reading;
  while (readings.place[last + 1]! + 0.5 < to) {
    last++;
    points.push(x[last]!, at[last]!);
  }
  points.push(along(to), between(to, last));
  return condensedLine(points);
}

/** The outline of the ground between a line and its base: along the one, and back along the other. */
export function groundOf(top: readonly number[], base: readonly number[]): number[] {
  const outline = top.slice();
  for (let i = base.length - 2; i >= 0; i -= 2) outline.push(base[i]!, base[i + 1]!);
  return outline;
}
