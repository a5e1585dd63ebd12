/** The parts of a colour, 0 to 255: of `#22272d`, or as browsers compute it, of `rgb(34, 39, 45)`. */
const bytesOf = (colour: string): number[] =>
  colour.startsWith('#')
    ? [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16))
    : (/rgba?\(([^)]*)\)/.exec(colour)?.[1] ?? '').split(/[\s,]+/, 3).map(Number);

/** Relative luminance of an sRGB colour (WCAG 2.2). */
function luminance(colour: string): number {
  const [red = 0, green = 0, blue = 0] = bytesOf(colour).map((byte) => {
    const part = byte / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}

/** How well two colours stand off from each other, from 1 to 21 (WCAG 2.2). */
export function contrast(one: string, other: string): number {
  const [low = 0, high = 0] = [luminance(one), luminance(other)].sort((a, b) => a - b);
  return (high + 0.05) / (low + 0.05);
}
