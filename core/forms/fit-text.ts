import type { TextMeasure } from './scene';

/** Widths of letters in bold, px, by measure and size. */
const letters = new WeakMap<TextMeasure, Map<number, Map<string, number>>>();

/** About how wide a text is in bold: the sum of its letters, each of which is measured once. */
function byLetters(size: number, measure: TextMeasure): (text: string) => number {
  const sizes = letters.get(measure) ?? new Map<number, Map<string, number>>();
  letters.set(measure, sizes);
  const known = sizes.get(size) ?? new Map<string, number>();
  sizes.set(size, known);
  return (text) => {
    let sum = 0;
    for (const letter of text) {
      let width = known.get(letter);
      if (width === undefined) {
        width = measure(letter, size, true);
        known.set(letter, width);
      }
      sum += width;
    }
    return sum;
  };
}

/** The text, or as much of its beginning as fits into `width` px followed by an ellipsis. */
export function fitText(text: string, width: number, size: number, measure: TextMeasure): string {
  // No letter is wider than it is high, and no text as wide as its letters in bold: what is short enough is not measured.
  if (text.length * size <= width || byLetters(size, measure)(text) <= width || measure(text, size) <= width)
    return text;
  let low = 0;
  let high = text.length;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (measure(`${text.slice(0, middle)}…`, size) <= width) low = middle;
    else high = middle - 1;
  }
  return low === 0 ? '' : `${text.slice(0, low).trimEnd()}…`;
}

/** A rough measure for places without fonts: wide, narrow and ordinary letters of a humanist sans. */
export const estimateText: TextMeasure = (text, size, bold = false) => {
  let em = 0;
  for (const letter of text)
    em += /[il.,:;|'!jIf]/.test(letter) ? 0.3 : /[mwMW@%]/.test(letter) ? 0.88 : 0.57;
  return em * size * (bold ? 1.06 : 1);
};

/** More texts than this are told apart by their letters, as measuring thousands of them is slow; so many are measured. */
const few = 100;

/** The advance of the widest of the texts, in bold. */
export function widestOf(texts: readonly string[], size: number, measure: TextMeasure): number {
  const width = (text: string) => measure(text, size, true);
  if (texts.length <= few) return Math.max(0, ...texts.map(width));
  const about = Float64Array.from(texts, byLetters(size, measure));
  const widest = Float64Array.from(about).sort().at(-few)!;
  return Math.max(
    0,
    ...texts
      .filter((_, i) => about[i]! >= widest)
      .slice(0, few)
      .map(width),
  );
}
