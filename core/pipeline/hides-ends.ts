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
  return (box) => {
    for (let i = 0; i < length; i++) {
      const { left, right, top, bottom } = end(scene, i, upright);
      if (left <= box.right && right >= box.left && top <= box.bottom && bottom >= box.top) return true;
    }
    return false;
  };
}
