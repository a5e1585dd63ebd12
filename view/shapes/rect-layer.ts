import { manyBars } from '@sorvik/core/forms/form-kind';
import type { RectMarks } from '@sorvik/core/forms/scene';
import { CanvasOrEach } from './canvas-or-each';
import type { MarkDrawing } from './each-layer';
import type { LayerKind } from './layer-kind';
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

export const rectLayer: LayerKind = {
  kind: 'rects',
  make: (layer, options) =>
    new CanvasOrEach(layer, options, { drawing: rect, most: manyBars, Canvas: RectCanvas }),
};
