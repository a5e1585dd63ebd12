/** By how many of its last binary digits a figure may be off that was worked out from others. */
const slack = 8 * Number.EPSILON;

/**
 * A figure that was worked out from readings, as decimal arithmetic would have it: where it lies within rounding of one of
 * them, it is that one, and nought where it is nothing beside them. So what stands at a mean or a limit is at it.
 */
export function settled(figure: number, values: Float64Array): number {
  let nearest = Number.NaN;
  let least = Number.POSITIVE_INFINITY;
  let largest = 0;
  // What is missing is neither nearer nor larger than anything.
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    const size = Math.abs(value);
    if (size > largest) largest = size;
    const away = Math.abs(value - figure);
    if (away < least) {
      least = away;
      nearest = value;
    }
  }
  const within = slack * largest;
  if (least <= within) return nearest;
  return Math.abs(figure) <= within ? 0 : figure;
}
