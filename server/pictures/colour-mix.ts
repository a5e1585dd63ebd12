import { rgb } from 'd3-color';

const mix = /^color-mix\(in srgb,\s*(.+?)\s+([\d.]+)%,\s*transparent\)$/;

/**
 * A colour, where it is mixed with nothing, as a colour that is that much seen through (CSS Color 5, section 3: in sRGB with
 * premultiplied alpha the colour stays and its alpha is what is left). Any other value as it is.
 */
export function colourMixed(value: string): string {
  const [, colour, percent] = mix.exec(value) ?? [];
  if (colour === undefined) return value;
  const found = rgb(colour);
  found.opacity *= Number(percent) / 100;
  return found.formatRgb();
}
