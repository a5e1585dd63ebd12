import { fontFamily } from '@sorvik/view/font-family';
import { paintSheet } from '@sorvik/view/picture/chart-sheet';
import { ownStyles } from '@sorvik/view/picture/own-styles';
import { make } from '@sorvik/view/svg';
import type { Carried } from './carried';
import { embeddedFont } from './font-face';

/** A picture of a chart that needs nothing of the page. */
export interface Picture {
  text: string;
  width: number;
  height: number;
}

const later = () => new Promise((resolve) => setTimeout(resolve));

const pageStyle = (element: Element) => {
  const style = getComputedStyle(element);
  return (property: string) => style.getPropertyValue(property);
};

/** The chart as an SVG file: its title, what its looks mean, the plot as it is, and its caption. */
export async function chartPicture({ output, svg, title }: Carried): Promise<Picture> {
  const sheet = make('svg', svg.parentElement!);
  sheet.style.cssText = 'position:fixed;left:-20000px;top:0';
  try {
    const { width, height } = paintSheet(sheet, output, { title, caption: true });
    for (const _step of ownStyles(sheet, pageStyle)) await later();
    for (const [name, value] of Object.entries({
      xmlns: 'http://www.w3.org/2000/svg',
      width,
      height,
      viewBox: `0 0 ${width} ${height}`,
      'font-family': fontFamily,
    }))
      sheet.setAttribute(name, String(value));
    const family = fontFamily.split(',')[0]!.replaceAll("'", '');
    const font = await embeddedFont(family).catch(() => '');
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
