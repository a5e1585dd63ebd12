import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { make } from '../svg';
import { paintSheet } from './chart-sheet';
import { embeddedFont } from './font-face';
import { ownStyles } from './own-styles';

/** A picture of a chart that needs nothing of the page. */
export interface Picture {
  text: string;
  width: number;
  height: number;
}

/** A chart that a page shows. */
export interface PagedChart {
  output: ChartResult;
  /** Where it is shown: what the theme says there holds for the picture. */
  beside: Element;
  title: string;
  /** The fonts of its texts, the first one first. */
  family: string;
}

const later = () => new Promise((resolve) => setTimeout(resolve));

const pageStyle = (element: Element) => {
  const style = getComputedStyle(element);
  return (property: string) => style.getPropertyValue(property);
};

/** The chart as an SVG file: its title, what its looks mean, the plot as it is, and its caption. */
export async function pagePicture({ output, beside, title, family }: PagedChart): Promise<Picture> {
  const sheet = make('svg', beside);
  sheet.style.cssText = 'position:fixed;left:-20000px;top:0';
  try {
    const { width, height } = paintSheet(sheet, output, { title, caption: true });
    for (const _step of ownStyles(sheet, pageStyle)) await later();
    for (const [name, value] of Object.entries({
      xmlns: 'http://www.w3.org/2000/svg',
      width,
      height,
      viewBox: `0 0 ${width} ${height}`,
      'font-family': family,
    }))
      sheet.setAttribute(name, String(value));
    // From here on it is none of the page's, nor of its policy for styles.
    sheet.remove();
    const font = await embeddedFont(family.split(',')[0]!.replaceAll(/["']/g, '')).catch(() => '');
    if (font) {
      const style = make('style', sheet);
      style.textContent = font;
      sheet.prepend(style);
    }
    sheet.removeAttribute('style');
    const name = make('title', sheet);
    name.textContent = title;
    sheet.prepend(name);
    return { text: new XMLSerializer().serializeToString(sheet), width, height };
  } finally {
    sheet.remove();
  }
}
