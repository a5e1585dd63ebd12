import type { Readings } from '../../data/readings';
import type { PointMarks, Scene } from '../../forms/scene';
import { leadsOn } from '../line-states';
import { far, type ShapeKind } from './shape-kind';

/** The pointer is on the nearest line within this distance, px. */
export const reach = 24;

/** The first reading of a run of readings whose place is at or after `place`. */
function firstFrom({ place: places }: Readings, from: number, to: number, place: number): number {
  let low = from;
  let high = to;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (places[middle]! >= place) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** The distance of a point to the stretch between two others, all in px. */
function distanceTo(x: number, y: number, ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax;
  const dy = by - ay;
  const along = dx || dy ? ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy) : 0;
  const share = Math.max(0, Math.min(1, along));
  return Math.hypot(x - ax - share * dx, y - ay - share * dy);
}

/** The reading with a value that is nearest along the axis, among those of one run. */
function nearestAlong(marks: PointMarks, from: number, to: number, x: number): number {
  let best = -1;
  let least = Number.POSITIVE_INFINITY;
  for (let i = from; i < to; i++) {
    const away = Math.abs(marks.x[i]! - x);
    if (Number.isNaN(marks.y[i]!) || away >= least) continue;
    least = away;
    best = i;
  }
  return best;
}

/** The reading of the line nearest to a point, not farther away than `within` px; -1 when there is none. */
function nearestOn({ marks, band }: Scene, readings: Readings, x: number, y: number, within: number): number {
  const points = marks as PointMarks;
  const placeAt = (px: number) => (px - band.start) / band.step - 0.5;
  const first = Math.floor(placeAt(x - within));
  const last = Math.ceil(placeAt(x + within));
  let best = -1;
  let least = within;
  for (let s = 0; s + 1 < readings.starts.length; s++) {
    const end = readings.starts[s + 1]!;
    let from = firstFrom(readings, readings.starts[s]!, end, first);
    let to = firstFrom(readings, from, end, last + 1);
    // A line that is led over what is missing comes from farther away.
    if (readings.bridged) {
      from = Math.max(readings.starts[s]!, from - 1);
      to = Math.min(end, to + 1);
    }
    let own = Number.POSITIVE_INFINITY;
    for (let i = from; i < to; i++) {
      const next = i + 1 < to && leadsOn(readings, i, i + 1) ? i + 1 : i;
      const away = distanceTo(x, y, points.x[i]!, points.y[i]!, points.x[next]!, points.y[next]!);
      if (away < own) own = away;
    }
    if (own > least || !Number.isFinite(own)) continue;
    const found = nearestAlong(points, from, to, x);
    if (found < 0) continue;
    least = own;
    best = found;
  }
  return best;
}

/** The run of readings that a reading belongs to. */
const runOf = ({ starts, seriesOf }: Readings, index: number): [number, number] => [
  starts[seriesOf[index]!]!,
  starts[seriesOf[index]! + 1]!,
];

/** The next line above or below a reading, at its place; the reading itself when there is none. */
function beside(scene: Scene, readings: Readings, from: number, up: boolean): number {
  const { y } = scene.marks as PointMarks;
  const place = readings.place[from]!;
  let best = from;
  for (let s = 0; s + 1 < readings.starts.length; s++) {
    const i = firstFrom(readings, readings.starts[s]!, readings.starts[s + 1]!, place);
    if (i >= readings.starts[s + 1]! || readings.place[i] !== place || i === from) continue;
    const beyond = up
      ? y[i]! < y[from]! || (y[i] === y[from] && s < readings.seriesOf[from]!)
      : y[i]! > y[from]! || (y[i] === y[from] && s > readings.seriesOf[from]!);
    const nearer = best === from || (up ? y[i]! > y[best]! : y[i]! < y[best]!);
    if (beyond && nearer) best = i;
  }
  return best;
}

export const points: ShapeKind = {
  kind: 'points',
  end: ({ marks: { x, y } }, i) => ({ left: x[i]!, right: x[i]!, top: y[i]!, bottom: y[i]! }),
  markAt: (scene, readings, x, y) => nearestOn(scene, readings, x, y, reach),
  nearest: (scene, readings, x, y) => {
    for (const within of [reach, 120, scene.width + scene.height]) {
      const found = nearestOn(scene, readings, x, y, within);
      if (found >= 0) return found;
    }
    return -1;
  },
  step(scene, readings, from, step) {
    if (!readings.length) return -1;
    if (from < 0) return 0;
    if (step === 'up' || step === 'down') return beside(scene, readings, from, step === 'up');
    const [start, end] = runOf(readings, from);
    const to = {
      next: from + 1,
      previous: from - 1,
      first: start,
      last: end - 1,
      'far next': from + far,
      'far previous': from - far,
    }[step];
    return Math.max(start, Math.min(end - 1, to));
  },
};
