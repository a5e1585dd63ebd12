import type { DotMarks } from '@sorvik/core/forms/scene';
import { markStates, stateCode } from '@sorvik/core/pipeline/emphasise';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { symbol } from 'd3-shape';
import { CanvasSheet } from './canvas-sheet';
import { lookCss } from './look-css';
import { shownLook } from './paint-look';
import { type DotRun, stampDots } from './stamp-dots';
import { dotSize, symbols } from './symbols';

/** Very many dots on two canvases: all of them as they are while unlit, and over them those that are lit. */
export class DotCanvas {
  private readonly base: CanvasSheet;
  private readonly over: CanvasSheet;
  private last: ChartResult | null = null;
  private drawn = '';

  constructor(layer: SVGGElement) {
    const again = () => {
      if (this.last) this.paint(this.last, true);
    };
    this.base = new CanvasSheet(layer, again);
    this.over = new CanvasSheet(layer, again);
  }

  remove(): void {
    this.base.remove();
    this.over.remove();
  }

  paint(output: ChartResult, remade: boolean): void {
    const { emphasis, seriesColours, tone } = output;
    if (tone !== this.last?.tone) this.base.forget();
    this.last = output;
    const rest = `${markStates[emphasis.rest]} ${tone} ${seriesColours}`;
    if (remade || rest !== this.drawn) this.paintBase(output);
    this.drawn = rest;
    this.paintLit(output);
  }

  private paintBase(output: ChartResult): void {
    const { scene, readings, emphasis } = output;
    const { x, y, size } = scene.marks as DotMarks;
    const context = this.base.clean(scene.width, scene.height);
    if (emphasis.rest === stateCode.gone) return;
    const runs: DotRun[] = [];
    for (let series = 0; series + 1 < readings.starts.length; series++) {
      const from = readings.starts[series]!;
      const look = shownLook(output, -1, emphasis.rest, series);
      const colour = this.base.colour(lookCss(look, emphasis.rest, readings, from));
      runs.push({ from, to: readings.starts[series + 1]!, colour });
    }
    stampDots(context, x, y, size, runs, this.base.sharp);
  }

  private paintLit(output: ChartResult): void {
    const { scene, readings, emphasis } = output;
    const { x, y, size } = scene.marks as DotMarks;
    const context = this.over.clean(scene.width, scene.height);
    if (!emphasis.litCount) return;
    const paths = new Map<string, Path2D>();
    context.strokeStyle = this.over.colour('var(--bs-body-bg)');
    context.lineWidth = 1;
    for (let i = 0; i < emphasis.state.length; i++) {
      if (emphasis.state[i] !== stateCode.lit || Number.isNaN(x[i]! + y[i]!)) continue;
      const look = shownLook(output, emphasis.look[i]!, stateCode.lit, readings.seriesOf[i]!);
      const across = dotSize(size, true, look?.markerSize);
      const shape = look?.marker ?? 'disc';
      const name = `${shape} ${across}`;
      if (!paths.has(name))
        paths.set(name, new Path2D(symbol(symbols[shape], (Math.PI * across * across) / 4)() ?? ''));
      context.fillStyle = this.over.colour(lookCss(look, stateCode.lit, readings, i));
      context.translate(x[i]!, y[i]!);
      context.fill(paths.get(name)!);
      if (across > 5) context.stroke(paths.get(name)!);
      context.translate(-x[i]!, -y[i]!);
    }
  }
}
