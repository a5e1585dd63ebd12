/**
 * Reads a figure as people type or paste it: "1,200", "1 200", "0.8", "0,8", "15 %". A comma or point before exactly
 * three digits parts thousands when it stands more than once or comes with the other one; a comma does so always, but
 * after a lone zero: no group begins with 0, so "0,645" is less than one.
 * NaN for anything else. `percent` tells that a percent sign followed.
 */
export function figureFrom(text: string): { figure: number; percent: boolean } {
  const percent = /%\s*$/.test(text);
  let plain = text
    .replace(/%\s*$/, '')
    .replace(/[\s'\u00a0\u202f_]/g, '')
    .replace(/^[\u2212\u2013]/, '-');
  const lastComma = plain.lastIndexOf(',');
  const lastPoint = plain.lastIndexOf('.');
  if (lastComma > lastPoint && lastPoint >= 0) plain = plain.replace(/\./g, '').replace(',', '.');
  else if (/^[+-]?0,/.test(plain)) plain = plain.replace(',', '.');
  else plain = plain.replace(/,(?=\d{3}(\D|$))/g, '').replace(',', '.');
  const fits = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain);
  return { figure: fits ? Number(plain) : Number.NaN, percent };
}
