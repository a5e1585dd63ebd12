import type { PointMarks } from '@sorvik/core/forms/scene';
import { positionsOn } from '@sorvik/core/forms/value-axis';
import { trackPoints } from '@sorvik/core/pipeline/piece-points';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { hairLines } from './strokes';

/** A tile is such a part of what is in view. */
const tilesInView = 4;
const mostTiles = 40;

/**
 * Unlit lines of a chart whose window moves along them on an axis that stays. They are drawn on tiles, each once; a step
 * of the window puts the tiles in view elsewhere.
 */
export class LineTrack {
  private tiles = new Map<number, HTMLCanvasElement>();
  private drawn: readonly unknown[] = [];

  /** Whether these lines can be drawn so: each on the one axis, without a ground. */
  static takes({ track, scene }: ChartResult): boolean {
    return track !== null && !scene.second && (scene.marks as PointMarks).base === undefined;
  }

  /** Colours mean something else now. */
  forget(): void {
    this.tiles.clear();
  }

  paint(
    onto: CanvasRenderingContext2D,
    output: ChartResult,
    colours: readonly string[],
    sharp: number,
  ): void {
    const { scene, track } = output;
    const { band, values, height } = scene;
    const { before } = track!;
    const places = Math.max(1, Math.ceil(band.count / tilesInView));
    const same = [track!.all, band.step, places, height, sharp, values.start, values.end, values.scale];
    const now = [...same, ...values.domain, ...colours];
    if (now.length !== this.drawn.length || now.some((part, i) => part !== this.drawn[i])) this.forget();
    this.drawn = now;

    // Dots of the screen, so that none of a tile falls between two of them.
    const dots = (px: number) => Math.round(px * sharp);
    const shift = dots(band.start + band.step / 2) - dots(before * band.step);
    onto.save();
    onto.resetTransform();
    onto.beginPath();
    // From the first point in view to the last, where other lines end too.
    const ends = [0.5, band.count - 0.5].map((place) => dots(band.start + place * band.step));
    onto.rect(ends[0]!, 0, ends[1]! - ends[0]!, dots(height));
    onto.clip();
    const last = Math.floor((before + band.count - 1) / places);
    for (let at = Math.floor(before / places); at <= last; at++) {
      const tile = this.tiles.get(at) ?? this.draw(at, places, output, colours, sharp);
      onto.drawImage(tile, shift + dots(at * places * band.step), 0);
    }
    onto.restore();
  }

  private draw(
    at: number,
    places: number,
    { scene, track }: ChartResult,
    colours: readonly string[],
    sharp: number,
  ): HTMLCanvasElement {
    if (this.tiles.size >= mostTiles) this.tiles.clear();
    const { all } = track!;
    const { band, values, height } = scene;
    const tile = document.createElement('canvas');
    tile.width = Math.max(
      1,
      Math.round((at + 1) * places * band.step * sharp) - Math.round(at * places * band.step * sharp),
    );
    tile.height = Math.max(1, Math.round(height * sharp));
    const context = tile.getContext('2d')!;
    context.setTransform(sharp, 0, 0, sharp, 0, 0);
    const position = positionsOn(values);
    const stretch = { from: at * places, to: (at + 1) * places, step: band.step };
    for (let series = 0; series < all.starts.length - 1; series++)
      hairLines(context, trackPoints(all, series, stretch, position), colours[series]!, sharp);
    this.tiles.set(at, tile);
    return tile;
  }
}
