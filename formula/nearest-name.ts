import { distance } from 'fastest-levenshtein';

/** The name that may have been meant by a misspelt one: one that a few changed letters make of it; undefined for none. */
export function nearestName(wanted: string, names: Iterable<string>): string | undefined {
  const low = wanted.toLocaleLowerCase().slice(0, 80);
  let best: string | undefined;
  let least = Math.floor(low.length / 4) + 2;
  for (const name of names) {
    if (Math.abs(name.length - low.length) >= least) continue;
    const away = distance(low, name.toLocaleLowerCase());
    if (away < least) [best, least] = [name, away];
  }
  return best;
}
