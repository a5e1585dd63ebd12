import { manyBars } from '@sorvik/core/forms/form-kind';
import type { RectMarks } from '@sorvik/core/forms/scene';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { EachLayer, type MarkDrawing } from './each-layer';
import type { LayerKind, LayerOptions, MarkLayer } from './layer-kind';
import { RectCanvas } from './rect-canvas';

const rect: MarkDrawing = {
  element: 'rect',
  attributes({ marks }, i) {
    const { x, y, width, height } = marks as RectMarks;
    return [
      ['x', x[i]!.toFixed(2)],
      ['y', y[i]!.toFixed(2)],
      ['width', width[i]!.toFixed(2)],
      ['height', height[i]!.toFixed(2)],
    ];
  },
};

/** Bars: an element each; very many of them on a canvas. */
class RectLayer implements MarkLayer {
  private inner: MarkLayer | null = null;
  private onCanvas = false;

  constructor(
    private readonly layer: SVGGElement,
    private readonly options: LayerOptions,
  ) {}

  paint(output: ChartResult): void {
    const onCanvas = !this.options.carried && output.readings.length > manyBars;
    if (!this.inner || onCanvas !== this.onCanvas) {
      this.inner?.stop();
      this.layer.replaceChildren();
      this.onCanvas = onCanvas;
      this.inner = onCanvas
        ? new RectCanvas(this.layer, this.options)
        : new EachLayer(this.layer, this.options, rect);
    }
    this.inner.paint(output);
  }

  restate(output: ChartResult, last: ChartResult): void {
    this.inner?.restate(output, last);
  }
  focus(index: number, shown: boolean): string {
    return this.inner?.focus(index, shown) ?? '';
  }
  markAt(index: number): Element | undefined {
    return this.inner?.markAt(index);
  }
  stop(): void {
    this.inner?.stop();
  }
}

export const rectLayer: LayerKind = {
  kind: 'rects',
  make: (layer, options) => new RectLayer(layer, options),
};
