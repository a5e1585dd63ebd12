import type { Edges } from '../forms/edges';
import type { Scene } from '../forms/scene';
import { shapeKinds } from './shapes/registry';

/** More marks than this are not looked at: among so many none is read by its end. */
const mostMarks = 3000;

/** Whether a text would hide where a mark ends, which is what is compared with its line. */
export function hidesEnds(scene: Scene): (box: Edges) => boolean {
  const { marks, values } = scene;
  const { end } = shapeKinds.get(marks.shape);
  const { length } = marks.x;
  if (!end || length > mostMarks) return () => false;
  const upright = values.direction === 'y';
  let ends: Edges[] | undefined;
  return (box) => {
    // Most charts have no text that could hide any.
    ends ??= Array.from({ length }, (_, i) => end(scene, i, upright));
    return ends.some(
      ({ left, right, top, bottom }) =>
        left <= box.right && right >= box.left && top <= box.bottom && bottom >= box.top,
    );
  };
}
