import type { Readings } from '../cube/readings';
import type { Piece } from '../emphasis/strands';
import type { PointMarks, Scene } from './scene';

/** A line as pieces without a gap, each a flat list of its points: x, y, x, y .. px. */
export type Polylines = number[][];

/** The whole line of a series, broken where a reading is missing. */
export function linePoints({ marks }: Scene, readings: Readings, series: number): Polylines {
  const { x, y } = marks as PointMarks;
  const runs: Polylines = [];
  let run: number[] = [];
  const end = readings.starts[series + 1]!;
  for (let i = readings.starts[series]!; i < end; i++) {
    const broken = Number.isNaN(y[i]!);
    if ((broken || (run.length && readings.place[i]! - readings.place[i - 1]! !== 1)) && run.length) {
      runs.push(run);
      run = [];
    }
    if (!broken) run.push(x[i]!, y[i]!);
  }
  if (run.length) runs.push(run);
  return runs;
}

/** A lit piece of a line: its ends are where they fall between two readings, on the straight line that joins them. */
export function piecePoints(
  { marks, band }: Scene,
  readings: Readings,
  { from, to, reading }: Piece,
): number[] {
  const { x, y } = marks as PointMarks;
  const along = (place: number) => band.start + place * band.step;
  const between = (place: number, before: number): number => {
    const share = place - (readings.place[before]! + 0.5);
    return share === 0 ? y[before]! : y[before]! + share * (y[before + 1]! - y[before]!);
  };
  const points = [along(from), between(from, reading)];
  let last = reading;
  while (readings.place[last + 1]! + 0.5 < to) {
    last++;
    points.push(x[last]!, y[last]!);
  }
  points.push(along(to), between(to, last));
  return points;
}
