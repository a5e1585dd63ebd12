import type { RectMarks } from '@sorvik/core/forms/scene';

/** Bars thinner than this, px, are not painted one by one: what the screen rounds them to would be nothing. */
export const thinnest = 0.25;

/** From where to where bars reach that share a pixel across; px. */
export interface Reach {
  at: number;
  from: number;
  to: number;
}

/** Of the bars from `begin` up to `end`, which lie next to each other: how far those of each pixel reach together. */
export function envelopeOf(
  { x, y, width, height }: RectMarks,
  upright: boolean,
  begin: number,
  end: number,
): Reach[] {
  const reaches = new Map<number, Reach>();
  for (let i = begin; i < end; i++) {
    const at = Math.floor(upright ? x[i]! : y[i]!);
    const from = upright ? y[i]! : x[i]!;
    const to = from + (upright ? height[i]! : width[i]!);
    const known = reaches.get(at);
    if (!known) reaches.set(at, { at, from, to });
    else {
      known.from = Math.min(known.from, from);
      known.to = Math.max(known.to, to);
    }
  }
  return [...reaches.values()];
}
