import type { Scene } from './scene';

/** The mark at a point of the scene, px, or -1 on empty ground. */
export function markAt(scene: Scene, x: number, y: number): number {
  const { band, hitFrom, hitTo } = scene;
  const along = band.direction === 'x' ? x : y;
  const across = band.direction === 'x' ? y : x;
  const index = Math.floor((along - band.start) / band.step);
  if (index < 0 || index >= band.count) return -1;
  return across >= hitFrom[index]! && across <= hitTo[index]! ? index : -1;
}

/** The mark whose band is nearest to a point, whether or not the point is on it; -1 when there are none. */
export function nearestMark(scene: Scene, x: number, y: number): number {
  const { band } = scene;
  const along = band.direction === 'x' ? x : y;
  return Math.max(-1, Math.min(band.count - 1, Math.max(0, Math.floor((along - band.start) / band.step))));
}
