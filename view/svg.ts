import { fitText } from '@sorvik/core/forms/fit-text';
import { textSize } from '@sorvik/core/forms/form-kind';
import type { SceneLine, SceneText, TextMeasure } from '@sorvik/core/forms/scene';
import { partName } from './part-name';

const ns = 'http://www.w3.org/2000/svg';

/** What a part of a drawing is called: in the theme by its class, and for whoever looks for it by `data-part`. */
export function dress(element: Element, className: string): void {
  element.setAttribute('class', className);
  element.setAttribute('data-part', partName(className));
}

export function make<K extends keyof SVGElementTagNameMap>(
  name: K,
  parent: Element,
  className = '',
): SVGElementTagNameMap[K] {
  const element = parent.ownerDocument.createElementNS(ns, name);
  if (className) dress(element, className);
  parent.append(element);
  return element;
}

/** Gives an element declarations of its own: in a way that a page's policy for styles has nothing against. */
export function styled(element: Element, declarations: string): void {
  (element as SVGElement).style.cssText = declarations;
}

/** Attributes of one element, written only when they differ from what was written last. */
export class Written<E extends Element = Element> {
  private readonly last = new Map<string, string>();
  constructor(readonly element: E) {}
  set(name: string, value: string): void {
    if (this.last.get(name) === value) return;
    this.last.set(name, value);
    if (name === 'style') styled(this.element, value);
    else this.element.setAttribute(name, value);
  }
  text(value: string): void {
    if (this.last.get('#text') === value) return;
    this.last.set('#text', value);
    this.element.textContent = value;
  }
}

/** By its transform: a text whose place is an attribute of its own is shaped anew with every move. */
export function writeText(
  written: Written,
  { x, y, text, anchor, inside, room }: SceneText,
  measure: TextMeasure,
): void {
  written.set('transform', `translate(${x.toFixed(2)} ${y.toFixed(2)})`);
  written.set('text-anchor', anchor);
  written.set('data-inside', inside ? 'yes' : '');
  written.text(room === undefined ? text : fitText(text, room, textSize.category, measure));
}

function writeLine(written: Written, line: SceneLine): void {
  for (const name of ['x1', 'y1', 'x2', 'y2'] as const) written.set(name, line[name].toFixed(2));
  written.set('data-style', line.style ?? '');
  written.set('data-look', line.colour ?? '');
}

/** A list of elements of one sort that is kept from one painting to the next, and grows and shrinks at its end. */
export class Kept<K extends keyof SVGElementTagNameMap> {
  private readonly elements: Written<SVGElementTagNameMap[K]>[] = [];
  constructor(
    private readonly name: K,
    private readonly layer: SVGGElement,
    private readonly className: string,
  ) {}

  /** Brings the list to a length and hands out each element to be written to. */
  paint(count: number, write: (element: Written<SVGElementTagNameMap[K]>, index: number) => void): void {
    while (this.elements.length > count) this.elements.pop()!.element.remove();
    while (this.elements.length < count)
      this.elements.push(new Written(make(this.name, this.layer, this.className)));
    for (const [i, element] of this.elements.entries()) write(element, i);
  }
}

/** Lines and texts that are drawn around marks, each as what it is in the theme: by its role. */
export class KeptRoles {
  private readonly lines: Kept<'line'>;
  private readonly texts: Kept<'text'>;
  constructor(layer: SVGGElement) {
    this.lines = new Kept('line', make('g', layer), '');
    this.texts = new Kept('text', make('g', layer), '');
  }

  paint(lines: readonly SceneLine[], texts: readonly SceneText[], measure: TextMeasure): void {
    this.lines.paint(lines.length, (line, i) => {
      line.set('class', `sv-line sv-${lines[i]!.role}`);
      line.set('data-part', `line ${lines[i]!.role}`);
      writeLine(line, lines[i]!);
    });
    this.texts.paint(texts.length, (text, i) => {
      text.set('class', `sv-text sv-${texts[i]!.role}`);
      text.set('data-part', `text ${texts[i]!.role}`);
      writeText(text, texts[i]!, measure);
    });
  }
}

/** The value of a mark's category, or of a series, as an attribute. */
export const keyAttribute = (value: string | number | boolean | null | undefined) =>
  value === null || value === undefined ? '' : String(value);
