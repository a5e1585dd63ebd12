import type { RectMarks, Scene, SceneText } from '@sorvik/core/forms/scene';
import { markStates } from '@sorvik/core/pipeline/emphasise';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { FrameTask } from '../frame-task';
import { Kept, keyAttribute, make } from '../svg';
import type { LayerOptions, MarkLayer } from './layer-kind';
import { sameLook, shownLook } from './paint-look';
import { type Attributes, PaintedMark } from './painted-mark';
import { movesBetween, playMoves } from './reorder';

/**
 * What is painted at once, and in each frame after it: making a mark's elements costs four, writing to those that are
 * there costs one.
 */
const firstBudget = 480;
const laterBudget = 320;
const making = 4;

/** How the marks of a shape are drawn: an element each. */
export interface MarkDrawing {
  element: 'rect' | 'path';
  attributes(scene: Scene, index: number): Attributes;
}

/** Marks that are an element each, painted in slices where they are many. */
export class EachLayer implements MarkLayer {
  private marks: (PaintedMark | undefined)[] = [];
  private texts: SceneText[][] = [];
  private last: ChartResult | undefined;
  /** How many marks show what `last` says. */
  private painted = 0;
  private readonly following = new FrameTask();
  private focused = -1;

  private readonly rests: Kept<'rect'>;

  constructor(
    private readonly layer: SVGGElement,
    private readonly options: LayerOptions,
    private readonly drawing: MarkDrawing,
  ) {
    const rests = make('g', layer);
    rests.setAttribute('aria-hidden', 'true');
    this.rests = new Kept('rect', rests, 'sv-rest');
  }

  paint(output: ChartResult, moving = false): void {
    const moves = this.last && !moving && !this.options.carried ? movesBetween(this.last, output) : null;
    this.last = output;
    const { scene } = output;
    const count = scene.marks.x.length;
    while (this.marks.length > count) this.marks.pop()?.element.remove();
    const { rests = [], slots } = scene.marks as Partial<RectMarks>;
    this.layer.toggleAttribute('data-stacked', (slots?.stacked ?? false) && slots!.per > 1);
    this.rests.paint(rests.length, (rect, i) => {
      for (const [name, value] of Object.entries(rests[i]!)) rect.set(name, value.toFixed(2));
    });
    this.texts = Array.from({ length: count }, () => []);
    for (const text of scene.texts) if (text.mark !== undefined) this.texts[text.mark]!.push(text);
    this.paintMarks(0, this.options.carried ? Number.POSITIVE_INFINITY : firstBudget);
    if (moves)
      playMoves(
        this.marks.map((mark) => mark?.element),
        moves,
        scene.band.direction === 'y',
      );
  }

  restate(output: ChartResult, { emphasis: before, figures: figuresBefore }: ChartResult): void {
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
    this.following.cancel();
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
    this.following.cancel();
    const output = this.last!;
    const { scene, readings } = output;
    const { marks } = scene;
    let to = from;
    for (let left = budget; to < marks.x.length && left > 0; to++) {
      const i = to;
      if (Number.isNaN(marks.x[i]!)) {
        this.marks[i]?.element.remove();
        this.marks[i] = undefined;
        continue;
      }
      left -= this.marks[i] ? 1 : making;
      this.marks[i] ??= new PaintedMark(
        make('g', this.layer),
        `${this.options.id}-${i}`,
        this.drawing.element,
      );
      const mark = this.marks[i]!;
      mark.place(this.drawing.attributes(scene, i));
      mark.label(this.texts[i]!, output.input.measure);
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
    if (to < marks.x.length) this.following.set(() => this.paintMarks(to, laterBudget));
  }

  private paintState(output: ChartResult, i: number): void {
    const { emphasis, readings, figures } = output;
    const mark = this.marks[i]!;
    const name = markStates[emphasis.state[i]!]!;
    mark.group.set('data-state', name);
    mark.group.set('data-figure', figures.hidden?.[i] ? 'off' : 'on');
    mark.look(shownLook(output, emphasis.look[i]!, emphasis.state[i]!, readings.seriesOf[i]!), output, i);
    if (this.options.pickable) mark.group.set('aria-selected', name === 'lit' ? 'true' : 'false');
  }
}
