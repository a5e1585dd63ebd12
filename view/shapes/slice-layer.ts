import { sliceStep } from '@sorvik/core/forms/ring';
import type { SliceMarks } from '@sorvik/core/forms/scene';
import { arc } from 'd3-shape';
import { CanvasOrEach } from './canvas-or-each';
import type { MarkDrawing } from './each-layer';
import type { LayerKind } from './layer-kind';
import { SliceCanvas } from './slice-canvas';

/** More slices than this are thinner than a px or two each. */
const mostElements = 400;

/** A slice, and the way it steps forward from the centre while it is lit. */
const slice: MarkDrawing = {
  element: 'path',
  attributes({ marks }, i) {
    const { from, to, centre, inner, outer } = marks as SliceMarks;
    const path = arc<null>()
      .innerRadius(inner)
      .outerRadius(outer)
      .startAngle(from[i]!)
      .endAngle(to[i]!)
      .padAngle(to[i]! - from[i]! < 6.2 ? 1.5 / outer : 0)(null);
    const middle = (from[i]! + to[i]!) / 2;
    const step = [Math.sin(middle), -Math.cos(middle)].map((part) => `${(part * sliceStep).toFixed(1)}px`);
    return [
      ['d', path ?? ''],
      ['transform', `translate(${centre.x.toFixed(1)} ${centre.y.toFixed(1)})`],
      ['style', `--sv-step:${step.join(' ')}`],
    ];
  },
};

export const sliceLayer: LayerKind = {
  kind: 'slices',
  make: (layer, options) =>
    new CanvasOrEach(layer, options, { drawing: slice, most: mostElements, Canvas: SliceCanvas }),
};
