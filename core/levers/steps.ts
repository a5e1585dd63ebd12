/** Decimals that a step needs to be written: 0.05 -> 2. */
export function decimalsOf(step: number): number {
  const text = step.toString();
  const exponent = /e-(\d+)$/.exec(text);
  if (exponent) return Math.min(12, Number(exponent[1]));
  return Math.min(12, text.split('.')[1]?.length ?? 0);
}

/** The nearest figure that is a whole number of steps from `min` and within the bounds; the upper bound counts as one. */
export function onStep(
  figure: number,
  { min, max, step }: { min: number; max: number; step: number },
): number {
  // Adding 0 turns a negative zero into the other one.
  if (figure <= min) return min + 0;
  if (figure >= max) return max + 0;
  const decimals = Math.max(decimalsOf(step), decimalsOf(min));
  const stepped = Number((min + Math.round((figure - min) / step) * step).toFixed(decimals));
  return Math.max(min, Math.min(max, stepped)) + 0;
}
