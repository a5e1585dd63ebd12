import type { Look } from '@sorvik/core/board/look';
import { markStates, stateCode } from '@sorvik/core/emphasis/emphasise';
import { linePoints, type Polylines, piecePoints } from '@sorvik/core/forms/piece-points';
import type { PointMarks } from '@sorvik/core/forms/scene';
import type { StageOutput } from '@sorvik/core/stages/stage';
import { CanvasSheet } from './canvas-sheet';
import { lookCss } from './look-css';
import { shownLook } from './paint-look';
import { fillGround, litWidth, strokeLines, strokeWidths } from './strokes';

/** A lit line, or a lit piece of one. */
interface LitLine {
  tops: Polylines;
  bases: Polylines;
  look: Look | undefined;
  /** A reading that it goes by where its colour follows a measure. */
  reading: number;
  onTop: boolean;
}

const opacities = { plain: 0.35, muted: 0.5, lit: 0.6 };

/**
 * Lines of very many points on two canvases: all of them as they are while unlit, drawn anew only when that changes, and
 * over it what is lit. Pointing from one line to the next so costs that line alone.
 */
export class LineCanvas {
  private readonly base: CanvasSheet;
  private readonly over: CanvasSheet;
  private last: StageOutput | null = null;
  private drawn = '';

  constructor(layer: SVGGElement) {
    const again = () => {
      this.drawn = '';
      if (this.last) this.paint(this.last, true);
    };
    this.base = new CanvasSheet(layer, again);
    this.over = new CanvasSheet(layer, again);
  }

  remove(): void {
    this.base.remove();
    this.over.remove();
  }

  paint(output: StageOutput, remade: boolean): void {
    const { last } = this;
    this.last = output;
    if (output.tone !== last?.tone) this.base.forget();
    const { emphasis, seriesColours, tone } = output;
    const rest = `${emphasis.rest} ${tone} ${seriesColours}`;
    if (remade || rest !== this.drawn) this.paintBase(output);
    this.drawn = rest;
    this.paintLit(output);
  }

  private paintBase(output: StageOutput): void {
    const { scene, readings, emphasis } = output;
    const context = this.base.clean(scene.width, scene.height);
    const state = emphasis.rest;
    if (state === stateCode.gone) return;
    const name = markStates[state] as 'plain' | 'muted';
    const filled = (scene.marks as PointMarks).base !== undefined;
    for (let series = 0; series + 1 < readings.starts.length; series++) {
      const first = readings.starts[series]!;
      const colour = this.base.colour(lookCss(shownLook(output, -1, state, series), state, readings, first));
      const tops = linePoints(scene, readings, series);
      if (filled)
        fillGround(context, tops, linePoints(scene, readings, series, 'base'), colour, opacities[name]);
      strokeLines(context, tops, colour, strokeWidths[name]);
    }
  }

  private paintLit(output: StageOutput): void {
    const { scene, readings } = output;
    const context = this.over.clean(scene.width, scene.height);
    for (const { tops, bases, look, reading } of litLines(output)) {
      const colour = this.over.colour(lookCss(look, stateCode.lit, readings, reading));
      if (bases.length) fillGround(context, tops, bases, colour, opacities.lit);
      strokeLines(context, tops, colour, litWidth(look), look?.hatch === true);
    }
  }
}

function litLines(output: StageOutput): LitLine[] {
  const { scene, readings, strands } = output;
  const filled = (scene.marks as PointMarks).base !== undefined;
  const lit = (strands ?? []).flatMap((strand): LitLine[] => {
    const { series } = strand;
    const look = (index: number) => shownLook(output, index, stateCode.lit, series);
    if (strand.look >= 0) {
      const own = look(strand.look);
      return [
        {
          tops: linePoints(scene, readings, series),
          bases: filled ? linePoints(scene, readings, series, 'base') : [],
          look: own,
          reading: readings.starts[series]!,
          onTop: own?.onTop === true,
        },
      ];
    }
    return strand.pieces.map((piece) => ({
      tops: [piecePoints(scene, readings, piece)],
      bases: filled ? [piecePoints(scene, readings, piece, 'base')] : [],
      look: look(piece.look),
      reading: piece.reading,
      onTop: look(piece.look)?.onTop === true,
    }));
  });
  return lit.sort((a, b) => Number(a.onTop) - Number(b.onTop));
}
