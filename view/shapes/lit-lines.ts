import type { Look } from '@sorvik/core/board/look';
import type { PointMarks } from '@sorvik/core/forms/scene';
import { stateCode } from '@sorvik/core/pipeline/emphasise';
import { linePoints, type Polylines, piecePoints } from '@sorvik/core/pipeline/piece-points';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { shownLook } from './paint-look';

/** A lit line, or a lit piece of one. Its points are worked out when they are asked for. */
export interface LitLine {
  tops(): Polylines;
  bases(): Polylines;
  /** How many readings it leads over. */
  length: number;
  look: Look | undefined;
  /** A reading that it goes by where its colour follows a measure. */
  reading: number;
  series: number;
  onTop: boolean;
}

/** What is lit of the lines of a chart: whole lines and pieces, those that are to lie on top last. */
export function litLines(output: ChartResult): LitLine[] {
  const { scene, readings, lineStates } = output;
  const filled = (scene.marks as PointMarks).base !== undefined;
  const lit = (lineStates ?? []).flatMap((lineState): LitLine[] => {
    const { series } = lineState;
    const look = (index: number) => shownLook(output, index, stateCode.lit, series);
    if (lineState.look >= 0) {
      const own = look(lineState.look);
      const reading = readings.starts[series]!;
      return [
        {
          tops: () => linePoints(scene, readings, series),
          bases: () => (filled ? linePoints(scene, readings, series, 'base') : []),
          length: readings.starts[series + 1]! - reading,
          look: own,
          reading,
          series,
          onTop: own?.onTop === true,
        },
      ];
    }
    return lineState.pieces.map((piece) => {
      const own = look(piece.look);
      return {
        tops: () => [piecePoints(scene, readings, piece)],
        bases: () => (filled ? [piecePoints(scene, readings, piece, 'base')] : []),
        length: Math.ceil(piece.to - piece.from) + 1,
        look: own,
        reading: piece.reading,
        series,
        onTop: own?.onTop === true,
      };
    });
  });
  return lit.sort((a, b) => Number(a.onTop) - Number(b.onTop));
}
