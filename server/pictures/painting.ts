import { fontFamily } from '@sorvik/view/font-family';
import type { SheetBox } from '@sorvik/view/picture/board-sheet';
import { ownStyles } from '@sorvik/view/picture/own-styles';
import { DOMParser } from 'linkedom';
import type { Dress } from './drawn';
import type { Theme } from './theme';

/** A picture as it is written: an element that needs no theme, its size, px, and the parts that a page does not tear apart. */
export interface Painted {
  svg: SVGSVGElement;
  width: number;
  height: number;
  boxes: readonly SheetBox[];
}

const ns = 'http://www.w3.org/2000/svg';

/** Draws a picture in a document of its own, and writes into it what a theme says of it. */
export function painted(
  { theme }: Dress,
  style: Theme,
  paint: (svg: SVGSVGElement) => Omit<Painted, 'svg'>,
): Painted {
  // Read as XML, it is written as XML again.
  const document = new DOMParser().parseFromString('<html/>', 'text/xml');
  const root = document.documentElement as unknown as Element;
  const svg = (document as unknown as Document).createElementNS(ns, 'svg');
  root.setAttribute('data-bs-theme', theme);
  root.append(svg);
  const { width, height, boxes } = paint(svg);
  for (const _step of ownStyles(svg, (element) => (property) => style.styleOf(element, property)));
  for (const [name, value] of Object.entries({
    xmlns: ns,
    width,
    height,
    viewBox: `0 0 ${width} ${height}`,
    'font-family': fontFamily,
  }))
    svg.setAttribute(name, String(value));
  for (const toned of [svg, ...svg.querySelectorAll('[data-tone]')]) toned.removeAttribute('data-tone');
  return { svg, width, height, boxes };
}
