import type { Look } from '@sorvik/core/board/look';
import type { SceneText, TextMeasure } from '@sorvik/core/forms/scene';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { dress, make, Written, writeText } from '../svg';
import { paintLook } from './paint-look';

/** Attributes of an element, by name. */
export type Attributes = readonly [name: string, value: string][];

/** What stands for one reading: its shape and its texts, in one group that carries its state. */
export class PaintedMark {
  readonly group: Written<SVGGElement>;
  private readonly bar: Written;
  private readonly texts = new Map<string, Written>();
  private hatch: Element | null = null;
  private box: Attributes = [];

  constructor(
    readonly element: SVGGElement,
    id: string,
    private readonly shape: 'rect' | 'path',
  ) {
    dress(element, 'sv-mark');
    element.id = id;
    this.group = new Written(element);
    this.bar = new Written(make(shape, element, 'sv-bar'));
  }

  place(box: Attributes): void {
    this.box = box;
    for (const [name, value] of box) this.bar.set(name, value);
    if (this.hatch) this.placeHatch();
  }

  label(texts: readonly SceneText[], measure: TextMeasure): void {
    const roles = new Set<string>();
    for (const text of texts) {
      roles.add(text.role);
      let written = this.texts.get(text.role);
      if (!written) {
        written = new Written(make('text', this.element, `sv-text sv-${text.role}`));
        this.texts.set(text.role, written);
      }
      writeText(written, text, measure);
    }
    for (const [role, written] of this.texts)
      if (!roles.has(role)) {
        written.element.remove();
        this.texts.delete(role);
      }
  }

  look(look: Look | undefined, { readings }: ChartResult, i: number): void {
    paintLook(this.group, look, readings, i);
    if (look?.hatch && !this.hatch) {
      this.hatch = make(this.shape, this.element, 'sv-hatch');
      // Under the figure, where that stands inside.
      this.bar.element.after(this.hatch);
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
