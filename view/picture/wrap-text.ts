import type { TextMeasure } from '@sorvik/core/forms/scene';

/** A text in lines of a width, px; a word that is longer than a line has one to itself. */
export function wrapText(text: string, width: number, size: number, measure: TextMeasure): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of text.split(' ')) {
    const longer = line ? `${line} ${word}` : word;
    if (line && measure(longer, size, true) > width) {
      lines.push(line);
      line = word;
    } else line = longer;
  }
  if (line) lines.push(line);
  return lines;
}
