/** English plural of a common noun or of a field's name: "route" -> "routes", "quay" -> "quays", "ferry" -> "ferries". */
export function plural(noun: string): string {
  if (noun.includes(' and ')) return noun.split(' and ').map(plural).join(' and ');
  if (/[^aeiou]y$/i.test(noun)) return `${noun.slice(0, -1)}ies`;
  if (/(s|x|z|ch|sh)$/i.test(noun)) return /s$/i.test(noun) && !/ss$/i.test(noun) ? noun : `${noun}es`;
  return /\p{L}$/u.test(noun) ? `${noun}s` : `${noun} values`;
}

export const counted = (n: number, noun: string) =>
  `${n.toLocaleString('en')} ${n === 1 ? noun : plural(noun)}`;

/** "a", "a and b", "a, b and c"; beyond `limit`, "a, b and 4 more"; `total` counts those not listed. */
export function listed(items: readonly string[], limit = items.length, total = items.length): string {
  const shown = items.slice(0, limit);
  const rest = total - shown.length;
  const all = rest > 0 ? [...shown, `${rest.toLocaleString('en')} more`] : shown;
  return all.length < 2 ? (all[0] ?? '') : `${all.slice(0, -1).join(', ')} and ${all.at(-1)}`;
}

/** "1st", "2nd", "3rd", "11th". */
export function ordinal(n: number): string {
  const tens = n % 100;
  const ending = tens >= 11 && tens <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th');
  return `${n.toLocaleString('en')}${ending}`;
}
