import type { DotMarks, Scene } from '../../forms/scene';
import { type DotGrid, dotGrid, nearestDot } from './dot-grid';
import { type ShapeKind, steps } from './shape-kind';

/** The pointer is on a dot within this distance of its edge, px. */
const slack = 7;

const grids = new WeakMap<Scene, DotGrid>();
function gridOf(scene: Scene): DotGrid {
  const known = grids.get(scene);
  if (known) return known;
  const { x, y } = scene.marks;
  const made = dotGrid(x, y, scene.width, scene.height);
  grids.set(scene, made);
  return made;
}

const orders = new WeakMap<Float64Array, Int32Array>();
/** The dots that are drawn, rising along an axis, and where each is among them. */
function orderAlong(axis: Float64Array, { x, y }: DotMarks): Int32Array {
  const known = orders.get(axis);
  if (known) return known;
  const drawn = Int32Array.from(x.keys()).filter((i) => !Number.isNaN(x[i]! + y[i]!));
  const made = drawn.sort((a, b) => axis[a]! - axis[b]! || a - b);
  orders.set(axis, made);
  return made;
}

export const dots: ShapeKind = {
  kind: 'dots',
  end: ({ marks: { x, y } }, i) => ({ left: x[i]!, right: x[i]!, top: y[i]!, bottom: y[i]! }),
  kept(scene, i) {
    const { x, y, size } = scene.marks as DotMarks;
    const half = size / 2 + 1;
    return { left: x[i]! - half, right: x[i]! + half, top: y[i]! - half, bottom: y[i]! + half };
  },
  markAt(scene, _readings, x, y) {
    const marks = scene.marks as DotMarks;
    return nearestDot(gridOf(scene), marks.x, marks.y, x, y, marks.size / 2 + slack);
  },
  nearest(scene, _readings, x, y) {
    const marks = scene.marks as DotMarks;
    for (const within of [24, 120, scene.width + scene.height]) {
      const found = nearestDot(gridOf(scene), marks.x, marks.y, x, y, within);
      if (found >= 0) return found;
    }
    return -1;
  },
  /** Left and right along one axis, up and down along the other. */
  step(scene, _readings, from, step) {
    const marks = scene.marks as DotMarks;
    const upright = step === 'up' || step === 'down';
    const order = orderAlong(upright ? marks.y : marks.x, marks);
    if (!order.length) return -1;
    const last = order.length - 1;
    const at = order.indexOf(from);
    const to = steps[step](at, last);
    return order[at < 0 && step !== 'last' ? 0 : Math.max(0, Math.min(last, to))]!;
  },
};
