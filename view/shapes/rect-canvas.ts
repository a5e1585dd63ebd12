import type { RectMarks } from '@sorvik/core/forms/scene';
import { markStates, stateCode } from '@sorvik/core/pipeline/emphasise';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { isTextIn, lies, type Part } from '../sight';
import { Kept, writeText } from '../svg';
import { envelopeOf, thinnest } from './envelope';
import type { LayerOptions } from './layer-kind';
import { MarkCanvas } from './mark-canvas';

/** A lit bar is never thinner than this, px: it is what is looked for. */
const leastLit = 1.5;

/** Very many bars on canvases that hold what is in sight. */
export class RectCanvas extends MarkCanvas {
  private readonly written: Kept<'text'>;
  private readonly unfollow: () => void;
  private part: Part = { left: 0, top: 0, width: 0, height: 0 };

  constructor(
    layer: SVGGElement,
    private readonly options: LayerOptions,
  ) {
    // The ring stands in the middle of its bar.
    super(layer, options, ({ scene }, i) => {
      const { x, y, width, height } = scene.marks as RectMarks;
      return [x[i]! + width[i]! / 2, y[i]! + height[i]! / 2];
    });
    this.written = new Kept('text', this.texts, 'sv-text sv-by-state');
    this.unfollow = options.sight.follow(() => {
      if (this.last && !lies(options.sight.of(this.last), this.part)) this.paintAll(this.last);
    });
  }

  override focus(index: number, shown: boolean): string {
    const id = super.focus(index, shown);
    if (index >= 0 && shown) this.markAt(index)?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    return id;
  }

  override stop(): void {
    super.stop();
    this.unfollow();
  }

  protected override paintAll(output: ChartResult): void {
    this.part = this.options.sight.of(output, true);
    super.paintAll(output);
  }

  /** The names and figures of the bars that are in sight. */
  protected paintTexts({ scene, emphasis, input }: ChartResult): void {
    const texts = scene.texts.filter((text) => text.mark !== undefined && isTextIn(text, this.part));
    this.written.paint(texts.length, (written, i) => {
      const text = texts[i]!;
      written.set('class', `sv-text sv-by-state sv-${text.role}`);
      written.set('data-part', `text ${text.role}`);
      written.set('data-is', markStates[emphasis.state[text.mark!]!]!);
      writeText(written, text, input.measure);
    });
  }

  protected paintBase(output: ChartResult): void {
    const { scene, readings, emphasis } = output;
    const { left, top, width, height } = this.part;
    const context = this.base.clean(width, height, left, top);
    const marks = scene.marks as RectMarks;
    context.fillStyle = this.base.colour('var(--sv-mark-muted)');
    for (const rest of marks.rests ?? []) context.fillRect(rest.x, rest.y, rest.width, rest.height);
    if (emphasis.rest === stateCode.gone) return;
    const upright = scene.band.direction === 'x';
    const thin = (upright ? marks.width : marks.height)[0]! < thinnest;
    for (let begin = 0; begin < marks.x.length; ) {
      const series = readings.seriesOf[begin]!;
      let end = begin;
      while (end < marks.x.length && readings.seriesOf[end] === series) end++;
      context.fillStyle = this.restColour(output, begin);
      if (thin)
        for (const { at, from, to } of envelopeOf(marks, upright, begin, end)) {
          if (upright) context.fillRect(at, from, 1, to - from);
          else context.fillRect(from, at, to - from, 1);
        }
      else
        for (let i = begin; i < end; i++)
          if (this.isThere(output, i))
            context.fillRect(marks.x[i]!, marks.y[i]!, marks.width[i]!, marks.height[i]!);
      begin = end;
    }
  }

  protected litOn({ scene }: ChartResult): (index: number, colour: string) => void {
    const { left, top, width, height } = this.part;
    const context = this.over.clean(width, height, left, top);
    const marks = scene.marks as RectMarks;
    const upright = scene.band.direction === 'x';
    return (i, colour) => {
      context.fillStyle = colour;
      const [w, h] = [marks.width[i]!, marks.height[i]!];
      const across = Math.max(0, leastLit - (upright ? w : h)) / 2;
      if (upright) context.fillRect(marks.x[i]! - across, marks.y[i]!, w + 2 * across, h);
      else context.fillRect(marks.x[i]!, marks.y[i]! - across, w, h + 2 * across);
    };
  }

  /** Whether a bar lies in the part that is painted. */
  protected isThere({ scene }: ChartResult, i: number): boolean {
    const { x, y, width, height } = scene.marks as RectMarks;
    const { part } = this;
    return (
      x[i]! + width[i]! >= part.left &&
      x[i]! <= part.left + part.width &&
      y[i]! + height[i]! >= part.top &&
      y[i]! <= part.top + part.height
    );
  }
}
