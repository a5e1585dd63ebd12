import type { Readings } from '../../data/readings';
import type { Scene, SliceMarks } from '../../forms/scene';
import { type ShapeKind, steps } from './shape-kind';

/** The angle of a point around the centre, from the top, clockwise; 0 to a full turn. */
function angleOf({ centre }: SliceMarks, x: number, y: number): number {
  const angle = Math.atan2(x - centre.x, centre.y - y);
  return angle < 0 ? angle + 2 * Math.PI : angle;
}

const sliceAt = ({ from, to }: SliceMarks, angle: number): number =>
  from.findIndex((start, i) => angle >= start && angle < to[i]!);

/** The slices from the top on. */
const inOrder = ({ from }: SliceMarks, { place }: Readings): number[] =>
  Array.from(place.keys())
    .filter((i) => !Number.isNaN(from[i]!))
    .sort((a, b) => from[a]! - from[b]!);

export const slices: ShapeKind = {
  kind: 'slices',
  beyond: 'beyond.ring',
  markAt(scene: Scene, _readings, x, y) {
    const marks = scene.marks as SliceMarks;
    const away = Math.hypot(x - marks.centre.x, y - marks.centre.y);
    if (away >= marks.inner && away <= marks.outer) return sliceAt(marks, angleOf(marks, x, y));
    const named = marks.names.find(
      (name) => x >= name.x && x <= name.x + name.width && y >= name.y && y <= name.y + name.height,
    );
    return named?.mark ?? -1;
  },
  nearest(scene, _readings, x, y) {
    const marks = scene.marks as SliceMarks;
    return sliceAt(marks, angleOf(marks, x, y));
  },
  step(scene, readings, from, step) {
    const order = inOrder(scene.marks as SliceMarks, readings);
    if (!order.length) return -1;
    const at = order.indexOf(from);
    if (at < 0 && step !== 'last') return order[0]!;
    const n = order.length;
    // Around and around: a ring has no end.
    const to = steps[step](at, n - 1);
    return order[((to % n) + n) % n]!;
  },
};
