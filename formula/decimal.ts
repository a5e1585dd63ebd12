/** The decimal digits of a figure, as many as it really has: 15. Sums of decimals lose what binary arithmetic adds. */
export const decimal = (value: number): number =>
  Number.isInteger(value) || !Number.isFinite(value) ? value : Number(value.toPrecision(15));

/** Rounds half away from zero at a number of decimals, as decimal arithmetic does: 1.005 to 1.01, -2.5 to -3. */
export function roundTo(value: number, decimals: number): number {
  const places = Math.trunc(decimals);
  if (!Number.isFinite(value)) return value;
  if (places >= 0 && Number.isInteger(value)) return value;
  if (Math.abs(places) > 30) return places > 0 ? value : 0;
  const [digits = '0', exponent = '0'] = decimal(Math.abs(value)).toExponential().split('e');
  const shifted = Math.floor(Number(`${digits}e${Number(exponent) + places}`) + 0.5);
  return Math.sign(value) * Number(`${shifted}e${-places}`);
}
