import type { Look } from '@sorvik/core/board/look';
import { markStates } from '@sorvik/core/emphasis/emphasise';
import type { RectMarks, SceneText } from '@sorvik/core/forms/scene';
import type { StageOutput } from '@sorvik/core/stages/stage';
import { Kept, keyAttribute, make, Written, writeText } from '../svg';
import type { LayerKind, LayerOptions, MarkLayer } from './layer-kind';
import { paintLook, sameLook, shownLook } from './paint-look';

/** What stands for one reading: the bar and its texts, in one group that carries its state. */
class PaintedMark {
  readonly group: Written<SVGGElement>;
  private readonly bar: Written<SVGRectElement>;
  private readonly texts = new Map<string, Written>();
  private hatch: Element | null = null;
  private box: [name: string, value: string][] = [];

  constructor(
    readonly element: SVGGElement,
    id: string,
  ) {
    element.setAttribute('class', 'sv-mark');
    element.id = id;
    this.group = new Written(element);
    this.bar = new Written(make('rect', element, 'sv-bar'));
  }

  place({ x, y, width, height }: RectMarks, i: number): void {
    this.box = [
      ['x', x[i]!.toFixed(2)],
      ['y', y[i]!.toFixed(2)],
      ['width', width[i]!.toFixed(2)],
      ['height', height[i]!.toFixed(2)],
    ];
    for (const [name, value] of this.box) this.bar.set(name, value);
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

  look(look: Look | undefined, { readings }: StageOutput, i: number): void {
    paintLook(this.group, look, readings, i);
    if (look?.hatch && !this.hatch) {
      this.hatch = make('rect', this.element, 'sv-hatch');
      this.placeHatch();
    } else if (!look?.hatch && this.hatch) {
      this.hatch.remove();
      this.hatch = null;
    }
  }

  private placeHatch(): void {
    for (const [name, value] of this.box) this.hatch!.setAttribute(name, value);
  }
}

/**
 * What is painted at once, and in each frame after it: making a mark's elements costs four, writing to those that are
 * there costs one.
 */
const firstBudget = 480;
const laterBudget = 320;
const making = 4;

class RectLayer implements MarkLayer {
  private marks: (PaintedMark | undefined)[] = [];
  private texts: SceneText[][] = [];
  private last!: StageOutput;
  /** How many marks show what `last` says. */
  private painted = 0;
  private following = 0;
  private focused = -1;

  private readonly rests: Kept<'rect'>;

  constructor(
    private readonly layer: SVGGElement,
    private readonly options: LayerOptions,
  ) {
    const rests = make('g', layer);
    rests.setAttribute('aria-hidden', 'true');
    this.rests = new Kept('rect', rests, 'sv-rest');
  }

  paint(output: StageOutput): void {
    this.last = output;
    const { scene } = output;
    const count = scene.marks.x.length;
    while (this.marks.length > count) this.marks.pop()?.element.remove();
    const { rests, slots } = scene.marks as RectMarks;
    this.layer.toggleAttribute('data-stacked', slots.stacked && slots.per > 1);
    this.rests.paint(rests.length, (rect, i) => {
      for (const [name, value] of Object.entries(rests[i]!)) rect.set(name, value.toFixed(2));
    });
    this.texts = Array.from({ length: count }, () => []);
    for (const text of scene.texts) if (text.mark !== undefined) this.texts[text.mark]!.push(text);
    this.paintMarks(0, firstBudget);
  }

  restate(output: StageOutput, { emphasis: before, figures: figuresBefore }: StageOutput): void {
    this.last = output;
    const { emphasis: now, figures } = output;
    for (let i = 0; i < this.painted; i++) {
      const same =
        now.state[i] === before.state[i] &&
        sameLook(now.looks[now.look[i]!], before.looks[before.look[i]!]) &&
        figures.hidden?.[i] === figuresBefore.hidden?.[i];
      if (!same && this.marks[i]) this.paintState(output, i);
    }
  }

  stop(): void {
    cancelAnimationFrame(this.following);
  }

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

  markAt(index: number): Element | undefined {
    return this.marks[index]?.element;
  }

  /** The marks from one on, as many as the budget allows, and the rest in the frames that follow. */
  private paintMarks(from: number, budget: number): void {
    cancelAnimationFrame(this.following);
    const output = this.last;
    const { scene, readings } = output;
    const marks = scene.marks as RectMarks;
    let to = from;
    for (let left = budget; to < marks.x.length && left > 0; to++) {
      const i = to;
      if (Number.isNaN(marks.x[i]!)) {
        this.marks[i]?.element.remove();
        this.marks[i] = undefined;
        continue;
      }
      left -= this.marks[i] ? 1 : making;
      this.marks[i] ??= new PaintedMark(make('g', this.layer), `${this.options.id}-${i}`);
      const mark = this.marks[i]!;
      mark.place(marks, i);
      mark.label(this.texts[i]!);
      mark.group.set('data-key', keyAttribute(readings.category[i]));
      if (readings.series.length)
        mark.group.set('data-series', keyAttribute(readings.series[readings.seriesOf[i]!]));
      if (this.options.pickable) {
        mark.group.set('role', 'option');
        mark.group.set('aria-label', `${output.name(i)}: ${output.value(i)}`);
      }
      this.paintState(output, i);
    }
    this.painted = to;
    if (to < marks.x.length) this.following = requestAnimationFrame(() => this.paintMarks(to, laterBudget));
  }

  private paintState(output: StageOutput, i: number): void {
    const { emphasis, readings, figures } = output;
    const mark = this.marks[i]!;
    const name = markStates[emphasis.state[i]!]!;
    mark.group.set('data-state', name);
    mark.group.set('data-figure', figures.hidden?.[i] ? 'off' : 'on');
    mark.look(shownLook(output, emphasis.look[i]!, emphasis.state[i]!, readings.seriesOf[i]!), output, i);
    if (this.options.pickable) mark.group.set('aria-selected', name === 'lit' ? 'true' : 'false');
  }
}

export const rectLayer: LayerKind = {
  kind: 'rects',
  make: (layer, options) => new RectLayer(layer, options),
};
