import type { PointMarks } from '@sorvik/core/forms/scene';
import { markStates, stateCode } from '@sorvik/core/pipeline/emphasise';
import { linePoints } from '@sorvik/core/pipeline/piece-points';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { FrameTask } from '../frame-task';
import { CanvasSheet } from './canvas-sheet';
import { LineTrack } from './line-track';
import type { LitLine } from './lit-lines';
import { lookCss } from './look-css';
import { shownLook } from './paint-look';
import { fillGround, hairLines, litWidth, strokeLines } from './strokes';

/** Lines of so many points are drawn in one task, the others in the frames that follow. */
const pointsAtOnce = 100_000;

const opacities = { plain: 0.35, muted: 0.5, lit: 0.6 };

/**
 * Lines of very many points on two canvases: all of them as they are while unlit, drawn anew only when that changes, and
 * over it what is lit. Pointing from one line to the next so costs that line alone.
 */
export class LineCanvas {
  private readonly base: CanvasSheet;
  private readonly over: CanvasSheet;
  private last: ChartResult | null = null;
  private drawn = '';
  private lit: readonly LitLine[] = [];
  private readonly track = new LineTrack();
  private readonly following = new FrameTask();
  private steps: Generator<void, void> | null = null;

  constructor(layer: SVGGElement) {
    const again = () => {
      this.drawn = '';
      this.track.forget();
      if (this.last) this.paint(this.last, this.lit, true);
    };
    this.base = new CanvasSheet(layer, again);
    this.over = new CanvasSheet(layer, again);
  }

  remove(): void {
    this.following.cancel();
    this.base.remove();
    this.over.remove();
  }

  /** Paints what is unlit, and of what is lit as much as is given. */
  paint(output: ChartResult, lit: readonly LitLine[], remade: boolean): void {
    const { last } = this;
    this.last = output;
    this.lit = lit;
    if (output.tone !== last?.tone) this.base.forget();
    const { emphasis, seriesColours, tone } = output;
    const unlit = `${emphasis.rest} ${tone} ${seriesColours}`;
    this.steps = this.painting(output, lit, remade || unlit !== this.drawn ? unlit : null);
    this.goOn();
  }

  private goOn(): void {
    this.following.cancel();
    if (!this.steps!.next().done) this.following.set(() => this.goOn());
  }

  /** `unlit` says how what is unlit is to be drawn anew; null where it stays. */
  private *painting(
    output: ChartResult,
    lit: readonly LitLine[],
    unlit: string | null,
  ): Generator<void, void> {
    if (unlit !== null) {
      this.drawn = '';
      yield* this.paintBase(output);
      this.drawn = unlit;
    }
    yield* this.paintLit(output, lit);
  }

  private *paintBase(output: ChartResult): Generator<void, void> {
    const { scene, readings, emphasis } = output;
    const state = emphasis.rest;
    const clean = () => this.base.clean(scene.width, scene.height);
    if (state === stateCode.gone) {
      clean();
      return;
    }
    const name = markStates[state] as 'plain' | 'muted';
    if (LineTrack.takes(output)) {
      const colours = Array.from({ length: readings.starts.length - 1 }, (_, series) => {
        const first = readings.starts[series]!;
        return this.base.colour(lookCss(shownLook(output, -1, state, series), state, readings, first));
      });
      yield* this.track.paint(clean, output, colours, this.base.sharp);
      return;
    }
    const context = clean();
    const filled = (scene.marks as PointMarks).base !== undefined;
    let points = 0;
    for (let series = 0; series + 1 < readings.starts.length; series++) {
      const first = readings.starts[series]!;
      points += readings.starts[series + 1]! - first;
      if (points > pointsAtOnce) {
        yield;
        points = 0;
      }
      const colour = this.base.colour(lookCss(shownLook(output, -1, state, series), state, readings, first));
      const tops = linePoints(scene, readings, series);
      if (filled)
        fillGround(context, tops, linePoints(scene, readings, series, 'base'), colour, opacities[name]);
      hairLines(context, tops, colour, this.base.sharp);
    }
  }

  private *paintLit({ scene, readings }: ChartResult, lit: readonly LitLine[]): Generator<void, void> {
    if (!lit.length) {
      this.over.putAway();
      return;
    }
    const context = this.over.clean(scene.width, scene.height);
    let points = 0;
    for (const { tops, bases, length, look, reading } of lit) {
      points += length;
      if (points > pointsAtOnce) {
        yield;
        points = 0;
      }
      const colour = this.over.colour(lookCss(look, stateCode.lit, readings, reading));
      const lines = tops();
      const below = bases();
      if (below.length) fillGround(context, lines, below, colour, opacities.lit);
      strokeLines(context, lines, colour, litWidth(look), look?.hatch === true);
    }
  }
}
