import type { TextMeasure } from '@sorvik/core/forms/scene';
import { fontFamily } from './font-family';

const context = document.createElement('canvas').getContext('2d');
let told = '';

/** Measures texts in a font of the page, px. Widths are kept: the same labels are measured at every resize. */
export function textMeasure(family: string): TextMeasure {
  const known = new Map<string, number>();
  return (text, size, bold = false) => {
    const key = `${size}${bold ? 'b' : ''}${text}`;
    let width = known.get(key);
    if (width === undefined) {
      if (known.size > 20_000) known.clear();
      const font = `${bold ? 700 : 400} ${size}px ${family}`;
      // To be told a font takes longer than to measure in it.
      if (font !== told) context!.font = font;
      told = font;
      width = context!.measureText(text).width;
      known.set(key, width);
    }
    return width;
  };
}

/** The advance of a text in the font of the application's pages, px. */
export const measureText: TextMeasure = textMeasure(fontFamily);

/** Resolves when texts can be measured in the right font, or after a moment without it. */
export const fontReady = () =>
  Promise.race([
    Promise.all([
      document.fonts.load(`400 13px ${fontFamily}`),
      document.fonts.load(`700 13px ${fontFamily}`),
    ]),
    new Promise((resolve) => setTimeout(resolve, 600)),
  ]);
