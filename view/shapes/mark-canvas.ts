import { markStates, stateCode } from '@sorvik/core/pipeline/emphasise';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { make } from '../svg';
import { CanvasSheet } from './canvas-sheet';
import type { LayerOptions, MarkLayer } from './layer-kind';
import { lookCss } from './look-css';
import { MarkCursor } from './mark-cursor';
import { shownLook } from './paint-look';

/** Very many marks on two canvases: all as they are while unlit, drawn anew only when that changes, and over them the lit ones. */
export abstract class MarkCanvas implements MarkLayer {
  protected readonly base: CanvasSheet;
  protected readonly over: CanvasSheet;
  /** Where names and figures of marks are written. */
  protected readonly texts: SVGGElement;
  protected last: ChartResult | undefined;
  private readonly cursor: MarkCursor;

  constructor(
    private readonly layer: SVGGElement,
    options: LayerOptions,
    /** Where the ring around a mark stands, px. */
    spot: (output: ChartResult, index: number) => [number, number],
  ) {
    const again = () => this.last && this.paintAll(this.last);
    const group = () => {
      const made = make('g', layer);
      made.setAttribute('aria-hidden', 'true');
      return made;
    };
    const sheets = group();
    this.base = new CanvasSheet(sheets, again);
    this.over = new CanvasSheet(sheets, again);
    this.texts = group();
    this.cursor = new MarkCursor(layer, options, spot);
  }

  /** All marks as they are while unlit. */
  protected abstract paintBase(output: ChartResult): void;
  /** Makes a clean sheet for what is lit, and gives how one mark is drawn on it in a colour. */
  protected abstract litOn(output: ChartResult): (index: number, colour: string) => void;
  /** Whether a mark is to be seen where the canvases are. */
  protected abstract isThere(output: ChartResult, index: number): boolean;
  /** Names and figures; `remade` where they may be others than before. */
  protected abstract paintTexts(output: ChartResult, remade: boolean): void;

  paint(output: ChartResult): void {
    this.last = output;
    this.paintAll(output);
    this.cursor.place(output);
  }

  restate(output: ChartResult, before: ChartResult): void {
    this.last = output;
    if (output.tone !== before.tone) this.base.forget();
    if (output.emphasis.rest !== before.emphasis.rest || output.tone !== before.tone) this.paintBase(output);
    this.paintLit(output);
    this.paintTexts(output, false);
    this.cursor.place(output);
  }

  focus(index: number, shown: boolean): string {
    return this.cursor.focus(index, shown, this.last);
  }

  markAt(index: number): Element | undefined {
    return this.cursor.at(index, this.last);
  }

  stop(): void {
    this.base.remove();
    this.over.remove();
  }

  protected paintAll(output: ChartResult): void {
    this.paintBase(output);
    this.paintLit(output);
    this.paintTexts(output, true);
  }

  /** The colour of a mark that is not lit. */
  protected restColour(output: ChartResult, index: number): string {
    const { emphasis, readings } = output;
    const look = shownLook(output, -1, emphasis.rest, readings.seriesOf[index]!);
    return this.base.colour(lookCss(look, emphasis.rest, readings, index));
  }

  private paintLit(output: ChartResult): void {
    const { emphasis, readings, scene } = output;
    this.layer.dataset.lit = String(emphasis.litCount);
    this.layer.dataset.state = markStates[emphasis.rest]!;
    if (!emphasis.litCount) {
      this.over.putAway();
      return;
    }
    const draw = this.litOn(output);
    for (let i = 0; i < scene.marks.x.length; i++) {
      if (emphasis.state[i] !== stateCode.lit || !this.isThere(output, i)) continue;
      const look = shownLook(output, emphasis.look[i]!, stateCode.lit, readings.seriesOf[i]!);
      draw(i, this.over.colour(lookCss(look, stateCode.lit, readings, i)));
    }
  }
}
