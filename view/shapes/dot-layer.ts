import type { DotMarks } from '@sorvik/core/forms/scene';
import { markStates, stateCode } from '@sorvik/core/pipeline/emphasise';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { symbol } from 'd3-shape';
import { keyAttribute, make, Written } from '../svg';
import { DotCanvas } from './dot-canvas';
import type { LayerKind, LayerOptions, MarkLayer } from './layer-kind';
import { MarkCursor } from './mark-cursor';
import { paintLook, sameLook, shownLook } from './paint-look';
import { dotSize, symbols } from './symbols';

/** More dots than this are painted on a canvas: there they take less time than as elements, see `npm run bench`. */
const canvasFrom = 2000;

/** Dots: an element each, those that are lit over the others; very many of them on a canvas. */
class DotLayer implements MarkLayer {
  private readonly base: SVGGElement;
  private readonly over: SVGGElement;
  private readonly sheets: SVGGElement;
  private readonly cursor: MarkCursor;
  private dots: Written<SVGPathElement>[] = [];
  private canvas: DotCanvas | null = null;
  private last!: ChartResult;

  constructor(
    layer: SVGGElement,
    private readonly options: LayerOptions,
  ) {
    this.sheets = make('g', layer);
    this.base = make('g', layer);
    this.over = make('g', layer);
    for (const group of layer.children) group.setAttribute('aria-hidden', 'true');
    this.cursor = new MarkCursor(layer, options);
  }

  paint(output: ChartResult): void {
    this.last = output;
    const { scene, readings } = output;
    const onCanvas = !this.options.carried && readings.length > canvasFrom;
    if (onCanvas) this.canvas ??= new DotCanvas(this.sheets);
    else this.canvas?.remove();
    if (!onCanvas) this.canvas = null;
    const count = onCanvas ? 0 : scene.marks.x.length;
    while (this.dots.length > count) this.dots.pop()!.element.remove();
    while (this.dots.length < count) this.dots.push(new Written(make('path', this.base, 'sv-dot')));
    this.canvas?.paint(output, true);
    for (let i = 0; i < count; i++) {
      const { x, y } = scene.marks;
      const dot = this.dots[i]!;
      const gone = Number.isNaN(x[i]! + y[i]!);
      dot.set('transform', gone ? 'scale(0)' : `translate(${x[i]!.toFixed(1)} ${y[i]!.toFixed(1)})`);
      dot.set('data-key', keyAttribute(readings.category[i]));
      if (readings.series.length)
        dot.set('data-series', keyAttribute(readings.series[readings.seriesOf[i]!]));
      this.paintState(output, i);
    }
    this.cursor.place(output);
  }

  restate(output: ChartResult, { emphasis: before }: ChartResult): void {
    this.last = output;
    const { emphasis: now } = output;
    this.canvas?.paint(output, false);
    if (now !== before)
      for (let i = 0; i < this.dots.length; i++) {
        const same =
          now.state[i] === before.state[i] &&
          sameLook(now.looks[now.look[i]!], before.looks[before.look[i]!]);
        if (!same) this.paintState(output, i);
      }
    this.cursor.place(output);
  }

  focus(index: number, shown: boolean): string {
    return this.cursor.focus(index, shown, this.last);
  }
  markAt(index: number): Element | undefined {
    return this.cursor.at(index, this.last);
  }
  stop(): void {
    this.canvas?.remove();
    this.canvas = null;
  }

  private paintState(output: ChartResult, i: number): void {
    const { emphasis, readings, scene } = output;
    const dot = this.dots[i]!;
    const state = emphasis.state[i]!;
    const lit = state === stateCode.lit;
    const look = shownLook(output, emphasis.look[i]!, state, readings.seriesOf[i]!);
    const size = dotSize((scene.marks as DotMarks).size, lit, look?.markerSize);
    const shape = (lit && look?.marker) || 'disc';
    dot.set('d', symbol(symbols[shape], (Math.PI * size * size) / 4)() ?? '');
    dot.set('data-shape', shape);
    dot.set('data-state', markStates[state]!);
    paintLook(dot, look, readings, i);
    const home = lit ? this.over : this.base;
    if (dot.element.parentNode !== home) home.append(dot.element);
  }
}

export const dotLayer: LayerKind = {
  kind: 'dots',
  make: (layer, options) => new DotLayer(layer, options),
};
