/** A list of verdicts, four in a step; the last ones, which are no four, come one by one. */
const wordsOf = (list: Uint8Array, words: number) =>
  new Uint32Array(list.buffer, words ? list.byteOffset : 0, words);
const inFours = (...lists: Uint8Array[]) =>
  lists.every(({ byteOffset }) => byteOffset % 4 === 0) ? lists[0]!.length >> 2 : 0;

const lowBits = 0x01010101;
const allYes = 0x02020202;

/** Of each pair of verdicts the lesser, put into the first list. */
export function leastOf(into: Uint8Array, other: Uint8Array): void {
  const words = inFours(into, other);
  const [a, b] = [wordsOf(into, words), wordsOf(other, words)];
  for (let w = 0; w < words; w++) {
    const [x, y] = [a[w]!, b[w]!];
    // Two bits a verdict: yes where both are, and else 1 where neither is no.
    const yes = (x >>> 1) & (y >>> 1) & lowBits;
    const known = ((x >>> 1) | x) & ((y >>> 1) | y) & lowBits;
    a[w] = (yes << 1) | (known & ~yes);
  }
  for (let i = words * 4; i < into.length; i++) into[i] = Math.min(into[i]!, other[i]!);
}

/** Of each pair of verdicts the greater, put into the first list. */
export function greatestOf(into: Uint8Array, other: Uint8Array): void {
  const words = inFours(into, other);
  const [a, b] = [wordsOf(into, words), wordsOf(other, words)];
  for (let w = 0; w < words; w++) {
    const either = a[w]! | b[w]!;
    const yes = (either >>> 1) & lowBits;
    a[w] = (yes << 1) | (either & lowBits & ~yes);
  }
  for (let i = words * 4; i < into.length; i++) into[i] = Math.max(into[i]!, other[i]!);
}

/** Yes for no and no for yes; what is not known stays so. */
export function oppositeOf(list: Uint8Array): Uint8Array {
  const turned = new Uint8Array(list.length);
  const words = inFours(turned, list);
  const [to, from] = [wordsOf(turned, words), wordsOf(list, words)];
  for (let w = 0; w < words; w++) to[w] = allYes - from[w]!;
  for (let i = words * 4; i < list.length; i++) turned[i] = 2 - list[i]!;
  return turned;
}
