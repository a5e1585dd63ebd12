import { sliceStep } from '@sorvik/core/forms/ring';
import type { SliceMarks } from '@sorvik/core/forms/scene';
import { stateCode } from '@sorvik/core/pipeline/emphasise';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { KeptRoles } from '../svg';
import type { LayerOptions } from './layer-kind';
import { MarkCanvas } from './mark-canvas';

/** A lit slice is never thinner than this along its outer edge, px: it is what is looked for. */
const leastLit = 1.5;
/** Where the ring is measured from, and where angles of a canvas are. */
const quarter = Math.PI / 2;

/** Very many slices: those that are lit step forward. */
export class SliceCanvas extends MarkCanvas {
  private readonly written: KeptRoles;

  constructor(layer: SVGGElement, options: LayerOptions) {
    super(layer, options, ({ scene }, i) => {
      const { centre, inner, outer, from, to } = scene.marks as SliceMarks;
      const [angle, away] = [(from[i]! + to[i]!) / 2, (inner + outer) / 2];
      return [centre.x + Math.sin(angle) * away, centre.y - Math.cos(angle) * away];
    });
    this.written = new KeptRoles(this.texts);
  }

  protected paintTexts({ scene, input }: ChartResult, remade: boolean): void {
    if (!remade) return;
    this.written.paint(
      [],
      scene.texts.filter(({ mark }) => mark !== undefined),
      input.measure,
    );
  }

  /** Slices that follow each other in one colour are one stroke: thinner than a px each, nobody could tell them apart. */
  protected paintBase(output: ChartResult): void {
    const { scene, emphasis } = output;
    const context = this.base.clean(scene.width, scene.height);
    if (emphasis.rest === stateCode.gone) return;
    const marks = scene.marks as SliceMarks;
    const order = Array.from(marks.from.keys()).filter((i) => this.isThere(output, i));
    order.sort((a, b) => marks.from[a]! - marks.from[b]!);
    for (let begin = 0; begin < order.length; ) {
      const colour = this.restColour(output, order[begin]!);
      let end = begin + 1;
      while (end < order.length && this.restColour(output, order[end]!) === colour) end++;
      arc(context, marks, marks.from[order[begin]!]!, marks.to[order[end - 1]!]!);
      context.fillStyle = colour;
      context.fill();
      begin = end;
    }
  }

  protected litOn({ scene }: ChartResult): (index: number, colour: string) => void {
    const context = this.over.clean(scene.width, scene.height);
    const marks = scene.marks as SliceMarks;
    return (i, colour) => {
      const [from, to] = [marks.from[i]!, marks.to[i]!];
      const middle = (from + to) / 2;
      const half = Math.max((to - from) / 2, leastLit / 2 / marks.outer);
      arc(context, marks, middle - half, middle + half, sliceStep);
      context.fillStyle = colour;
      context.fill();
    };
  }

  /** What is not above zero has no slice. */
  protected isThere({ scene }: ChartResult, i: number): boolean {
    return !Number.isNaN((scene.marks as SliceMarks).from[i]!);
  }
}

/** The outline of a part of the ring, `forward` of where it stands, px. */
function arc(
  context: CanvasRenderingContext2D,
  { centre, inner, outer }: SliceMarks,
  from: number,
  to: number,
  forward = 0,
): void {
  const middle = (from + to) / 2;
  const [x, y] = [centre.x + Math.sin(middle) * forward, centre.y - Math.cos(middle) * forward];
  context.beginPath();
  context.arc(x, y, outer, from - quarter, to - quarter);
  context.arc(x, y, inner, to - quarter, from - quarter, true);
  context.closePath();
}
