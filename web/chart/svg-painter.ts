import { isNamedColour, type Look } from '@sorvik/core/board/look';
import { markStates } from '@sorvik/core/emphasis/emphasise';
import type { Scene, SceneLine, SceneText } from '@sorvik/core/forms/scene';
import type { StageOutput } from '@sorvik/core/stages/chart-stages';
import type { KeyValue } from '@sorvik/core/values';

const ns = 'http://www.w3.org/2000/svg';

function make<K extends keyof SVGElementTagNameMap>(
  name: K,
  parent: Element,
  className = '',
): SVGElementTagNameMap[K] {
  const element = document.createElementNS(ns, name);
  if (className) element.setAttribute('class', className);
  parent.append(element);
  return element;
}

/** Attributes of one element, written only when they differ from what was written last. */
class Written {
  private readonly last = new Map<string, string>();
  constructor(readonly element: Element) {}
  set(name: string, value: string): void {
    if (this.last.get(name) === value) return;
    this.last.set(name, value);
    this.element.setAttribute(name, value);
  }
  text(value: string): void {
    if (this.last.get('#text') === value) return;
    this.last.set('#text', value);
    this.element.textContent = value;
  }
}

/** What stands for one reading: the bar and its texts, in one group that carries its state. */
class PaintedMark {
  readonly group: Written;
  private readonly bar: Written;
  private readonly texts = new Map<string, Written>();
  private hatch: Element | null = null;
  private box = '';
  private own = '';

  constructor(
    readonly element: SVGGElement,
    id: string,
  ) {
    element.setAttribute('class', 'sv-mark');
    element.id = id;
    this.group = new Written(element);
    this.bar = new Written(make('rect', element, 'sv-bar'));
  }

  place(scene: Scene, i: number): void {
    const { x, y, width, height } = scene.marks;
    this.bar.set('x', x[i]!.toFixed(2));
    this.bar.set('y', y[i]!.toFixed(2));
    this.bar.set('width', width[i]!.toFixed(2));
    this.bar.set('height', height[i]!.toFixed(2));
    this.box = ['x', 'y', 'width', 'height']
      .map((name) => `${name}="${this.bar.element.getAttribute(name)}"`)
      .join(' ');
    if (this.hatch) this.placeHatch();
  }

  label(texts: readonly SceneText[]): void {
    const roles = new Set<string>();
    for (const text of texts) {
      roles.add(text.role);
      let written = this.texts.get(text.role);
      if (!written) {
        written = new Written(make('text', this.element, `sv-text sv-${text.role}`));
        this.texts.set(text.role, written);
      }
      writeText(written, text);
    }
    for (const [role, written] of this.texts)
      if (!roles.has(role)) {
        written.element.remove();
        this.texts.delete(role);
      }
  }

  look(look: Look | undefined): void {
    const words = look
      ? [isNamedColour(look.colour) && look.colour, look.outline && 'outline', look.hatch && 'hatch']
          .filter(Boolean)
          .join(' ')
      : '';
    this.group.set('data-look', words);
    // A colour of the author's own is none of the theme's.
    const own = look?.colour && !isNamedColour(look.colour) ? look.colour : '';
    if (own !== this.own) {
      this.own = own;
      this.element.style.setProperty('--sv-look', own);
    }
    if (look?.hatch && !this.hatch) {
      this.hatch = make('rect', this.element, 'sv-hatch');
      this.placeHatch();
    } else if (!look?.hatch && this.hatch) {
      this.hatch.remove();
      this.hatch = null;
    }
  }

  private placeHatch(): void {
    for (const [, name, value] of this.box.matchAll(/(\w+)="([^"]*)"/g))
      this.hatch!.setAttribute(name!, value!);
  }
}

function writeText(written: Written, { x, y, text, anchor }: SceneText): void {
  written.set('x', x.toFixed(2));
  written.set('y', y.toFixed(2));
  written.set('text-anchor', anchor);
  written.text(text);
}

function placeLine(element: SVGLineElement, line: SceneLine): void {
  for (const name of ['x1', 'y1', 'x2', 'y2'] as const) element.setAttribute(name, line[name].toFixed(2));
  if (line.style) element.dataset.style = line.style;
}

function paintLines(layer: SVGGElement, lines: readonly SceneLine[]): void {
  for (const line of lines) placeLine(make('line', layer, `sv-line sv-${line.role}`), line);
}

const sameLook = (a: Look | undefined, b: Look | undefined) =>
  a === b || (a?.colour === b?.colour && a?.outline === b?.outline && a?.hatch === b?.hatch);

export interface PainterOptions {
  /** Marks can be picked: the drawing is a listbox and each mark an option. */
  pickable: boolean;
  /** Unique in the page; marks are named after it. */
  id: string;
}

/**
 * What is painted at once, and in each frame after it: making a mark's elements costs four, writing to those that are
 * there costs one.
 */
const firstBudget = 480;
const laterBudget = 320;
const making = 4;

/** Paints a chart as SVG: keeps its elements and writes only what has changed. */
export class SvgPainter {
  private readonly back: SVGGElement;
  private readonly layer: SVGGElement;
  private readonly front: SVGGElement;
  private marks: PaintedMark[] = [];
  private texts: SceneText[][] = [];
  private last: StageOutput | null = null;
  /** How many marks show what `last` says. */
  private painted = 0;
  private following = 0;
  private focused = -1;

  constructor(
    private readonly svg: SVGSVGElement,
    private readonly options: PainterOptions,
  ) {
    svg.replaceChildren();
    const hatch = make('pattern', make('defs', svg));
    for (const [name, value] of Object.entries({
      id: `${options.id}-hatch`,
      width: '6',
      height: '6',
      patternUnits: 'userSpaceOnUse',
      patternTransform: 'rotate(45)',
    }))
      hatch.setAttribute(name, value);
    make('rect', hatch, 'sv-hatch-line').setAttribute('width', '2');
    hatch.firstElementChild!.setAttribute('height', '6');
    svg.style.setProperty('--sv-hatch', `url(#${options.id}-hatch)`);
    this.back = make('g', svg);
    this.layer = make('g', svg);
    this.front = make('g', svg);
    for (const layer of [this.back, this.front]) layer.setAttribute('aria-hidden', 'true');
    if (options.pickable) this.layer.setAttribute('role', 'presentation');
  }

  /**
   * Brings the drawing up to `output`; cheapest when only states differ from the last one. The first marks are painted
   * at once; where there are many, the rest follows in slices, so that the page never stands still for long.
   */
  paint(output: StageOutput): void {
    const { last } = this;
    this.last = output;
    if (output.scene !== last?.scene || output.readings !== last?.readings) {
      this.paintFrame(output);
      this.paintMarks(0, firstBudget);
    }
    if (output.guides !== last?.guides) this.paintGuides(output);
    if (
      output.scene === last?.scene &&
      output.readings === last.readings &&
      output.emphasis !== last.emphasis
    )
      this.paintStates(output, last);
  }

  /** Ends what is still to follow, for a drawing that is given up. */
  stop(): void {
    cancelAnimationFrame(this.following);
  }

  /** Makes the mark at `index` the one in hand, -1 for none, and returns its element's id; `shown` for the keyboard. */
  focus(index: number, shown: boolean): string {
    this.marks[this.focused]?.group.set('data-focus', 'no');
    this.focused = index;
    const mark = this.marks[index];
    if (mark && shown) {
      mark.group.set('data-focus', 'yes');
      mark.element.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    }
    return mark?.element.id ?? '';
  }

  /** The element of a mark that has been painted. */
  markAt(index: number): Element | undefined {
    return this.marks[index]?.element;
  }

  /** All but the marks; marks that are no more are removed. */
  private paintFrame({ scene }: StageOutput): void {
    const { svg } = this;
    svg.setAttribute('width', String(scene.width));
    svg.setAttribute('height', String(scene.height));
    svg.setAttribute('viewBox', `0 0 ${scene.width} ${scene.height}`);
    // An edge around a mark of a few pixels would leave nothing of its colour.
    svg.toggleAttribute('data-edges', scene.band.step >= 12);
    while (this.marks.length > scene.band.count) this.marks.pop()!.element.remove();
    this.texts = Array.from({ length: scene.band.count }, () => []);
    const loose: SceneText[] = [];
    for (const text of scene.texts) (text.mark === undefined ? loose : this.texts[text.mark]!).push(text);
    this.paintRules(scene, loose);
  }

  /** The marks from one on, as many as the budget allows, and the rest in the frames that follow. */
  private paintMarks(from: number, budget: number): void {
    cancelAnimationFrame(this.following);
    const output = this.last!;
    const { scene, readings, labels } = output;
    let to = from;
    for (let left = budget; to < scene.band.count && left > 0; to++) {
      const i = to;
      left -= this.marks[i] ? 1 : making;
      this.marks[i] ??= new PaintedMark(make('g', this.layer), `${this.options.id}-${i}`);
      const mark = this.marks[i]!;
      const texts = this.texts[i]!;
      mark.place(scene, i);
      mark.label(texts);
      mark.group.set('data-key', keyAttribute(readings.category[i]!));
      if (this.options.pickable) {
        mark.group.set('role', 'option');
        const value = texts.find((text) => text.role === 'value')?.text;
        mark.group.set('aria-label', value ? `${labels[i]}: ${value}` : labels[i]!);
      }
      this.paintState(output, i);
    }
    this.painted = to;
    if (to < scene.band.count) this.following = requestAnimationFrame(() => this.paintMarks(to, laterBudget));
  }

  /** Grid, zero line and axis texts: few, and redrawn as a whole. */
  private paintRules(scene: Scene, texts: readonly SceneText[]): void {
    this.back.replaceChildren();
    paintLines(this.back, scene.lines);
    for (const text of texts)
      writeText(new Written(make('text', this.back, `sv-text sv-${text.role}`)), text);
  }

  /** Guides lie over the marks, and move without them: their elements are kept. */
  private paintGuides({ guides }: StageOutput): void {
    const lines = [...this.front.querySelectorAll('line')];
    const texts = [...this.front.querySelectorAll('text')];
    if (lines.length !== guides.lines.length || texts.length !== guides.texts.length) {
      this.front.replaceChildren();
      paintLines(this.front, guides.lines);
      for (const text of guides.texts)
        writeText(new Written(make('text', this.front, `sv-text sv-${text.role}`)), text);
      return;
    }
    guides.lines.forEach((line, i) => {
      placeLine(lines[i]!, line);
    });
    guides.texts.forEach((text, i) => {
      writeText(new Written(texts[i]!), text);
    });
  }

  /** The states that differ from the last ones, and looks that are no longer the same. */
  private paintStates(output: StageOutput, last: StageOutput): void {
    const now = output.emphasis;
    const before = last.emphasis;
    for (let i = 0; i < this.painted; i++) {
      const same =
        now.state[i] === before.state[i] && sameLook(now.looks[now.look[i]!], before.looks[before.look[i]!]);
      if (!same) this.paintState(output, i);
    }
  }

  private paintState({ emphasis }: StageOutput, i: number): void {
    const mark = this.marks[i]!;
    const name = markStates[emphasis.state[i]!]!;
    mark.group.set('data-state', name);
    mark.look(emphasis.looks[emphasis.look[i]!]);
    if (this.options.pickable) mark.group.set('aria-selected', name === 'lit' ? 'true' : 'false');
  }
}

/** The value of a mark's category, as an attribute. */
export const keyAttribute = (value: KeyValue) => (value === null ? '' : String(value));
