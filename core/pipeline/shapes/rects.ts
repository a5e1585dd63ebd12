import type { RectMarks, Scene } from '../../forms/scene';
import { abreast } from '../../forms/slots';
import { type ShapeKind, steps } from './shape-kind';

/** The slot along the bands that a point, px, falls into: the bars of a place lie side by side. */
function slotAt({ band, marks }: Scene, along: number): { place: number; slot: number } {
  const side = abreast((marks as RectMarks).slots);
  const at = (along - band.start) / band.step;
  const place = Math.floor(at);
  return { place, slot: Math.max(0, Math.min(side - 1, Math.floor((at - place) * side))) };
}

/** The reading in a slot, or in the nearest one of its place that has one. */
function readingNear({ per, at }: RectMarks['slots'], place: number, slot: number): number {
  for (let away = 0; away < per; away++)
    for (const near of [slot - away, slot + away])
      if (near >= 0 && near < per && at[place * per + near]! >= 0) return at[place * per + near]!;
  return -1;
}

export const rects: ShapeKind = {
  kind: 'rects',
  end(scene, i, upright) {
    const { x, y, width, height } = scene.marks as RectMarks;
    // A column ends at its top, a bar at its right.
    const [left, top] = [upright ? x[i]! : x[i]! + width[i]!, y[i]!];
    return upright
      ? { left, right: left + width[i]!, top, bottom: top }
      : { left, right: left, top, bottom: top + height[i]! };
  },
  holds(scene, i, wide) {
    const { slots, width } = scene.marks as RectMarks;
    return slots.stacked && wide <= width[i]!;
  },
  markAt(scene, _readings, x, y) {
    const marks = scene.marks as RectMarks;
    const upright = scene.band.direction === 'x';
    const { place, slot } = slotAt(scene, upright ? x : y);
    if (place < 0 || place >= scene.band.count) return -1;
    const { per, at, stacked } = marks.slots;
    const across = upright ? y : x;
    const here = at.subarray(place * per + slot, place * per + (stacked ? per : slot + 1));
    return here.find((i) => i >= 0 && across >= marks.hitFrom[i]! && across <= marks.hitTo[i]!) ?? -1;
  },
  nearest(scene, _readings, x, y) {
    const { slots } = scene.marks as RectMarks;
    if (!scene.band.count) return -1;
    const { place, slot } = slotAt(scene, scene.band.direction === 'x' ? x : y);
    const within = Math.max(0, Math.min(scene.band.count - 1, place));
    return readingNear(slots, within, place < within ? 0 : place > within ? slots.per - 1 : slot);
  },
  step(scene, readings, from, step) {
    const { at } = (scene.marks as RectMarks).slots;
    // Bars of one series stand in the order of their readings: nothing has to be looked for.
    const inOrder = readings.starts.length === 2 && at.length === scene.marks.x.length;
    const order = inOrder ? at : at.filter((i) => i >= 0);
    if (!order.length) return -1;
    const place = from < 0 ? -1 : inOrder ? from : order.indexOf(from);
    const to = steps[step](place, order.length - 1);
    return order[Math.max(0, Math.min(order.length - 1, to))] ?? Math.min(from, readings.length - 1);
  },
};
