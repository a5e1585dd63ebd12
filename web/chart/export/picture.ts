import { chartCaption, chartSubtitle } from '@sorvik/core/text/chart-words';
import { fontFamily, measureText } from '@sorvik/view/measure-text';
import { make } from '@sorvik/view/svg';
import { SvgPainter } from '@sorvik/view/svg-painter';
import type { Carried } from './carried';
import { embeddedFont } from './font-face';
import { legendRows } from './legend-rows';
import { wrapText } from './wrap-text';

/** A picture of a chart that needs nothing of the page. */
export interface Picture {
  text: string;
  width: number;
  height: number;
}

const margin = 16;

/** What the theme says of an element and a file has to say itself: the property, and what it is of itself. */
const written: [property: string, usual: string][] = [
  ['fill', 'rgb(0, 0, 0)'],
  ['fill-opacity', '1'],
  ['stroke', 'none'],
  ['stroke-width', '1px'],
  ['stroke-dasharray', 'none'],
  ['stroke-linecap', 'butt'],
  ['stroke-linejoin', 'miter'],
  ['opacity', '1'],
  ['paint-order', 'normal'],
  ['font-size', ''],
  ['font-weight', '400'],
  ['font-style', 'normal'],
];
const dropped = ['class', 'role', 'id', 'aria-hidden', 'aria-label', 'aria-selected', 'tabindex', 'style'];
const atOnce = 400;

const later = () => new Promise((resolve) => setTimeout(resolve));

/** Writes what the theme says of a drawing into its elements, a few hundred at a time, and takes out what is not seen. */
async function withOwnStyles(svg: SVGSVGElement): Promise<void> {
  const elements = [...svg.querySelectorAll<SVGElement>('*')];
  const unseen: Element[] = [];
  const fits: (() => void)[] = [];
  for (const [i, element] of elements.entries()) {
    if (i % atOnce === atOnce - 1) await later();
    const style = getComputedStyle(element);
    if (style.display === 'none' || style.visibility === 'hidden') {
      unseen.push(element);
      continue;
    }
    const isText = element.tagName === 'text';
    const own = written
      .filter(([property]) => isText || !property.startsWith('font'))
      .map(([property, usual]) => [property, style.getPropertyValue(property), usual] as const)
      .filter(([, value, usual]) => value !== usual && value !== '');
    const { translate } = style;
    const fontSize = Number.parseFloat(style.fontSize);
    // Nothing is changed before all has been read: the theme goes by classes.
    fits.push(() => {
      const needed = element.id;
      for (const name of dropped) element.removeAttribute(name);
      // Hatches and the window of the plot are named by what uses them.
      if (needed && /pattern|clipPath/.test(element.tagName)) element.id = needed;
      if (element.tagName !== 'g') for (const [name, value] of own) element.setAttribute(name, value);
      if (translate && translate !== 'none') {
        const [x = '0', y = '0'] = translate.replaceAll('px', '').split(' ');
        element.setAttribute('transform', `translate(${x} ${y}) ${element.getAttribute('transform') ?? ''}`);
      }
      if (isText) element.setAttribute('dy', (fontSize * 0.35).toFixed(2));
    });
  }
  for (const element of unseen) element.remove();
  for (const fit of fits) fit();
}

/** The chart as an SVG file: its title, what its looks mean, the plot as it is, and its caption. */
export async function chartPicture({ output, svg, title }: Carried): Promise<Picture> {
  const { scene } = output;
  const width = Math.ceil(Math.max(360, scene.width)) + 2 * margin;
  const room = width - 2 * margin;
  const sheet = make('svg', svg.parentElement!);
  sheet.style.cssText = 'position:fixed;left:-20000px;top:0';
  try {
    const ground = make('rect', sheet);
    let y = margin;
    const write = (text: string, size: number, look: string, extra = '') => {
      for (const line of wrapText(text, room, size, measureText)) {
        const element = make('text', sheet, `sv-text ${look}`);
        element.setAttribute('x', String(margin));
        element.setAttribute('y', String(y + size * 0.65));
        element.style.cssText = `font-size:${size}px;${extra}`;
        element.textContent = line;
        y += size * 1.35;
      }
      y += 4;
    };
    write(title, 17, '', 'font-weight:650');
    const subtitle = chartSubtitle(output);
    if (subtitle) write(subtitle, 13, 'sv-tick');
    y += legendRows(sheet, output, margin, y, room);
    const plot = make('svg', sheet);
    new SvgPainter(plot, { pickable: false, id: 'plot', carried: true }).paint(output);
    plot.setAttribute('x', String(margin));
    plot.setAttribute('y', String(y));
    y += scene.height + 10;
    write(chartCaption(output), 13, 'sv-tick');
    const height = Math.ceil(y + margin / 2);
    for (const [name, value] of Object.entries({ width, height, fill: 'var(--bs-body-bg)' }))
      ground.setAttribute(name, String(value));
    const tone = output.tone;
    sheet.dataset.tone = tone;
    await withOwnStyles(sheet);
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
