import { isNamedColour, type ValueColour } from '../board/look';

/** A colour as the theme or the author has it, in CSS. */
export const cssColour = (colour: string): string =>
  isNamedColour(colour) ? `var(--sv-look-${colour})` : colour;

/** The greatest distance of any figure from a centre, on either side. */
export function farthestFrom(centre: number, values: Float64Array): number {
  let most = 0;
  for (const value of values) {
    const away = Math.abs(value - centre);
    if (away > most) most = away;
  }
  return most;
}

/**
 * The colour of a figure, in CSS. By sign: one colour from the centre on, another below it. By gradient: the farther from
 * the centre, the more of the colour of that side, up to all of it at the farthest figure; at the centre the tone of
 * plain marks. A figure that is missing has none.
 */
export function colourOfValue(colour: ValueColour, value: number, farthest: number): string | undefined {
  if (Number.isNaN(value)) return undefined;
  const away = value - (colour.centre ?? 0);
  const side = cssColour(away >= 0 ? colour.above : colour.below);
  if (colour.by === 'sign') return side;
  const share = farthest > 0 ? Math.min(1, Math.abs(away) / farthest) : 0;
  return `color-mix(in oklab, ${side} ${(share * 100).toFixed(1)}%, var(--sv-mark-plain))`;
}
