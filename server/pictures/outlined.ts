import type { Fonts } from './fonts';

const ns = 'http://www.w3.org/2000/svg';
const number = (element: Element, name: string) => Number.parseFloat(element.getAttribute(name) ?? '') || 0;

/** How far before its anchor a text begins, as a part of its width. */
const before: Readonly<Record<string, number>> = { middle: 0.5, end: 1 };

const ofText = new Set(['x', 'y', 'dy', 'text-anchor', 'font-size', 'font-weight', 'font-style']);

/** An outline whose halo lies under it, for whoever draws the halo last: the halo by itself, and the outline without it. */
function haloFirst(outline: SVGPathElement): SVGPathElement[] {
  if (!outline.getAttribute('paint-order')?.startsWith('stroke')) return [outline];
  const halo = outline.cloneNode() as SVGPathElement;
  halo.setAttribute('fill', 'none');
  for (const each of [halo, outline]) each.removeAttribute('paint-order');
  outline.setAttribute('stroke', 'none');
  return [halo, outline];
}

/** Puts outlines in place of the texts of a picture, for whoever draws it without its font. */
export function outlined(svg: SVGSVGElement, fonts: Fonts): void {
  for (const text of [...svg.querySelectorAll('text')]) {
    const { path, advance } = fonts.outlines(text.textContent ?? '', {
      size: number(text, 'font-size') || 16,
      weight: number(text, 'font-weight') || 400,
      italic: text.getAttribute('font-style') === 'italic',
    });
    const drawn = text.ownerDocument.createElementNS(ns, 'path');
    for (const { name, value } of [...text.attributes])
      if (!ofText.has(name)) drawn.setAttribute(name, value);
    const x = number(text, 'x') - advance * (before[text.getAttribute('text-anchor') ?? ''] ?? 0);
    const y = number(text, 'y') + number(text, 'dy');
    drawn.setAttribute('transform', `${text.getAttribute('transform') ?? ''} translate(${x} ${y})`.trim());
    drawn.setAttribute('d', path);
    text.replaceWith(...haloFirst(drawn));
  }
}
