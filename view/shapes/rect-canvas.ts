import type { RectMarks, Scene } from '@sorvik/core/forms/scene';
import { markStates, stateCode } from '@sorvik/core/pipeline/emphasise';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { KeptRoles, make } from '../svg';
import { CanvasSheet } from './canvas-sheet';
import { envelopeOf, thinnest } from './envelope';
import type { LayerOptions, MarkLayer } from './layer-kind';
import { lookCss } from './look-css';
import { MarkCursor } from './mark-cursor';
import { shownLook } from './paint-look';

/** What is painted beyond what is in sight, px: a little scrolling needs nothing new. */
const beyond = 400;
/** A lit bar is never thinner than this, px: it is what is looked for. */
const leastLit = 1.5;

interface Part {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Very many bars on two canvases, which hold what is in sight: all as they are while unlit, and over them the lit ones. */
export class RectCanvas implements MarkLayer {
  private readonly base: CanvasSheet;
  private readonly over: CanvasSheet;
  private readonly texts: KeptRoles;
  private readonly cursor: MarkCursor;
  private last: ChartResult | undefined;
  private part: Part = { left: 0, top: 0, width: 0, height: 0 };
  private waiting = 0;
  private readonly scroller: Element | null;
  private readonly onScroll = () => {
    cancelAnimationFrame(this.waiting);
    this.waiting = requestAnimationFrame(() => {
      if (this.last && !this.holds(this.inSight(this.last.scene))) this.paintAll(this.last);
    });
  };

  constructor(
    private readonly layer: SVGGElement,
    options: LayerOptions,
  ) {
    const again = () => this.last && this.paintAll(this.last);
    const sheets = make('g', layer);
    sheets.setAttribute('aria-hidden', 'true');
    this.base = new CanvasSheet(sheets, again);
    this.over = new CanvasSheet(sheets, again);
    const texts = make('g', layer);
    texts.setAttribute('aria-hidden', 'true');
    this.texts = new KeptRoles(texts);
    // The ring stands in the middle of its bar.
    this.cursor = new MarkCursor(layer, options, ({ scene }, i) => {
      const { x, y, width, height } = scene.marks as RectMarks;
      return [x[i]! + width[i]! / 2, y[i]! + height[i]! / 2];
    });
    this.scroller = layer.ownerSVGElement?.parentElement ?? null;
    this.scroller?.addEventListener('scroll', this.onScroll, { passive: true });
  }

  paint(output: ChartResult): void {
    this.last = output;
    this.texts.paint(
      [],
      output.scene.texts.filter(({ mark }) => mark !== undefined),
    );
    this.paintAll(output);
    this.cursor.place(output);
  }

  restate(output: ChartResult, before: ChartResult): void {
    this.last = output;
    if (output.tone !== before.tone) this.base.forget();
    if (output.emphasis.rest !== before.emphasis.rest || output.tone !== before.tone) this.paintBase(output);
    this.paintLit(output);
    this.cursor.place(output);
  }

  focus(index: number, shown: boolean): string {
    const id = this.cursor.focus(index, shown, this.last);
    if (index >= 0 && shown)
      this.cursor.at(index, this.last)?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    return id;
  }

  markAt(index: number): Element | undefined {
    return this.cursor.at(index, this.last);
  }

  stop(): void {
    cancelAnimationFrame(this.waiting);
    this.scroller?.removeEventListener('scroll', this.onScroll);
    this.base.remove();
    this.over.remove();
  }

  /** The part of the drawing that can be seen now. */
  private inSight({ width, height }: Scene): Part {
    const { scrollLeft = 0, scrollTop = 0, clientWidth = width, clientHeight = height } = this.scroller ?? {};
    const left = Math.min(scrollLeft, Math.max(0, width - 1));
    const top = Math.min(scrollTop, Math.max(0, height - 1));
    return {
      left,
      top,
      width: Math.min(clientWidth || width, width - left),
      height: Math.min(clientHeight || height, height - top),
    };
  }

  private holds({ left, top, width, height }: Part): boolean {
    const { part } = this;
    return (
      left >= part.left &&
      top >= part.top &&
      left + width <= part.left + part.width &&
      top + height <= part.top + part.height
    );
  }

  private paintAll(output: ChartResult): void {
    const { scene } = output;
    const seen = this.inSight(scene);
    const left = Math.max(0, seen.left - beyond);
    const top = Math.max(0, seen.top - beyond);
    this.part = {
      left,
      top,
      width: Math.min(scene.width, seen.left + seen.width + beyond) - left,
      height: Math.min(scene.height, seen.top + seen.height + beyond) - top,
    };
    this.paintBase(output);
    this.paintLit(output);
  }

  private paintBase(output: ChartResult): void {
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
      const look = shownLook(output, -1, emphasis.rest, series);
      context.fillStyle = this.base.colour(lookCss(look, emphasis.rest, readings, begin));
      if (thin)
        for (const { at, from, to } of envelopeOf(marks, upright, begin, end)) {
          if (upright) context.fillRect(at, from, 1, to - from);
          else context.fillRect(from, at, to - from, 1);
        }
      else
        for (let i = begin; i < end; i++)
          if (this.touches(marks, i))
            context.fillRect(marks.x[i]!, marks.y[i]!, marks.width[i]!, marks.height[i]!);
      begin = end;
    }
  }

  private paintLit(output: ChartResult): void {
    const { scene, readings, emphasis } = output;
    this.layer.dataset.lit = String(emphasis.litCount);
    this.layer.dataset.state = markStates[emphasis.rest]!;
    if (!emphasis.litCount) {
      this.over.putAway();
      return;
    }
    const { left, top, width, height } = this.part;
    const context = this.over.clean(width, height, left, top);
    const marks = scene.marks as RectMarks;
    const upright = scene.band.direction === 'x';
    for (let i = 0; i < marks.x.length; i++) {
      if (emphasis.state[i] !== stateCode.lit || !this.touches(marks, i)) continue;
      const look = shownLook(output, emphasis.look[i]!, stateCode.lit, readings.seriesOf[i]!);
      context.fillStyle = this.over.colour(lookCss(look, stateCode.lit, readings, i));
      const [w, h] = [marks.width[i]!, marks.height[i]!];
      const across = Math.max(0, leastLit - (upright ? w : h)) / 2;
      if (upright) context.fillRect(marks.x[i]! - across, marks.y[i]!, w + 2 * across, h);
      else context.fillRect(marks.x[i]!, marks.y[i]! - across, w, h + 2 * across);
    }
  }

  /** Whether a bar lies in the part that is painted. */
  private touches({ x, y, width, height }: RectMarks, i: number): boolean {
    const { part } = this;
    return (
      x[i]! + width[i]! >= part.left &&
      x[i]! <= part.left + part.width &&
      y[i]! + height[i]! >= part.top &&
      y[i]! <= part.top + part.height
    );
  }
}
