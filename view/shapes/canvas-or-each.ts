import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { EachLayer, type MarkDrawing } from './each-layer';
import type { LayerOptions, MarkLayer } from './layer-kind';

/** Marks that are an element each; very many of them on a canvas. */
export class CanvasOrEach implements MarkLayer {
  private inner: MarkLayer | null = null;
  private onCanvas = false;

  constructor(
    private readonly layer: SVGGElement,
    private readonly options: LayerOptions,
    private readonly kind: {
      drawing: MarkDrawing;
      /** More marks than this are painted on a canvas. */
      most: number;
      Canvas: new (layer: SVGGElement, options: LayerOptions) => MarkLayer;
    },
  ) {}

  paint(output: ChartResult, moving?: boolean): void {
    const { drawing, most, Canvas } = this.kind;
    const onCanvas = !this.options.carried && output.readings.length > most;
    if (!this.inner || onCanvas !== this.onCanvas) {
      this.inner?.stop();
      this.layer.replaceChildren();
      this.onCanvas = onCanvas;
      this.inner = onCanvas
        ? new Canvas(this.layer, this.options)
        : new EachLayer(this.layer, this.options, drawing);
    }
    this.inner.paint(output, moving);
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
