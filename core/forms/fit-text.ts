import type { TextMeasure } from './scene';

/** The text, or as much of its beginning as fits into `width` px followed by an ellipsis. */
export function fitText(text: string, width: number, size: number, measure: TextMeasure): string {
  // No letter is wider than it is high: what is short enough need not be measured.
  if (text.length * size <= width || measure(text, size) <= width) return text;
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

/** Measuring is slow where there are thousands: the widest text is looked for among this many of the longest. */
const measured = 100;

/** The advance of the widest of the texts, in bold. */
export function widestOf(texts: readonly string[], size: number, measure: TextMeasure): number {
  const longest =
    texts.length > measured ? [...texts].sort((a, b) => b.length - a.length).slice(0, measured) : texts;
  let most = 0;
  for (const text of longest) most = Math.max(most, measure(text, size, true));
  return most;
}
