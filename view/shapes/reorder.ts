import type { Readings } from '@sorvik/core/data/readings';
import type { Scene } from '@sorvik/core/forms/scene';
import { duration, MarkMotion } from './mark-motion';
import { sameReadings } from './same-readings';

/** More marks than this are put in their new places at once. */
const mostMoved = 200;

/** How far each mark has to come from where the same reading was, px; null where marks are not just in another order. */
export function movesBetween(
  from: { scene: Scene; readings: Readings },
  to: { scene: Scene; readings: Readings },
): { x: number; y: number }[] | null {
  const n = to.readings.length;
  const same =
    from.readings !== to.readings &&
    from.readings.length === n &&
    n <= mostMoved &&
    from.scene.width === to.scene.width &&
    from.scene.height === to.scene.height &&
    from.scene.marks.shape === to.scene.marks.shape;
  if (!same) return null;
  const before = sameReadings(from.readings, to.readings);
  let moved = false;
  const moves: { x: number; y: number }[] = [];
  for (let i = 0; i < n; i++) {
    const was = before[i]!;
    if (was < 0) return null;
    moved ||= was !== i;
    const x = from.scene.marks.x[was]! - to.scene.marks.x[i]!;
    const y = from.scene.marks.y[was]! - to.scene.marks.y[i]!;
    moves.push({ x: Number.isNaN(x) ? 0 : x, y: Number.isNaN(y) ? 0 : y });
  }
  return moved ? moves : null;
}

/** Lets elements come from where they were, in one short motion. */
export function playMoves(
  elements: readonly (Element | undefined)[],
  moves: readonly { x: number; y: number }[],
  lying: boolean,
): void {
  if (!MarkMotion.wanted) return;
  moves.forEach(({ x, y }, i) => {
    // Bars begin where they began: only along their places do they move.
    const [dx, dy] = lying ? [0, y] : [x, 0];
    if (Math.abs(dx) + Math.abs(dy) < 1) return;
    elements[i]?.animate([{ transform: `translate(${dx}px, ${dy}px)` }, { transform: 'none' }], {
      duration,
      easing: 'ease-out',
    });
  });
}
