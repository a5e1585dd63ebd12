import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { fontFamily } from '@sorvik/view/font-family';
import { fontFile } from './fonts';

const ns = 'http://www.w3.org/2000/svg';
const family = fontFamily.split(',')[0]!;
let rule = '';

/** Has a picture carry the font of its texts, with the letters of western languages: it looks the same anywhere. */
export function embeddedFont(svg: SVGSVGElement): void {
  if (!rule) {
    const file = readFileSync(createRequire(import.meta.url).resolve(fontFile('latin', 'normal')));
    rule = `@font-face{font-family:${family};font-weight:200 800;src:url(data:font/woff2;base64,${file.toString('base64')}) format('woff2')}`;
  }
  const style = svg.ownerDocument.createElementNS(ns, 'style');
  style.textContent = rule;
  svg.prepend(style);
}
