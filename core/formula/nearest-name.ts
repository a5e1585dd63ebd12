/** How many letters have to be put in, left out, changed or swapped to make one word of another. */
function editDistance(a: string, b: string): number {
  let before: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      row[j] = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + same);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        row[j] = Math.min(row[j]!, before[j - 2]! + 1);
    }
    before = last;
    last = row;
  }
  return last[b.length]!;
}

/** The name that may have been meant by a misspelt one: one within a third of its letters; undefined for none. */
export function nearestName(wanted: string, names: Iterable<string>): string | undefined {
  const low = wanted.toLocaleLowerCase().slice(0, 80);
  let best: string | undefined;
  let least = Math.max(1, Math.floor(low.length / 3)) + 1;
  for (const name of names) {
    if (Math.abs(name.length - low.length) >= least) continue;
    const away = editDistance(low, name.toLocaleLowerCase());
    if (away < least) [best, least] = [name, away];
  }
  return best;
}
