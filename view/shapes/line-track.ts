import type { PointMarks } from '@sorvik/core/forms/scene';
import { positionsOn } from '@sorvik/core/forms/value-axis';
import { trackPoints } from '@sorvik/core/pipeline/piece-points';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { hairLines } from './strokes';

/** A tile is such a part of what is in view. */
const tilesInView = 4;
const mostTiles = 40;
/** Of so many readings a tile takes a while: the page can do something else before the next. */
const manyReadings = 250_000;

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

  /** Draws in steps what tiles are still missing; `onto` gives what they are put on when all are there. */
  *paint(
    onto: () => CanvasRenderingContext2D,
    output: ChartResult,
    colours: readonly string[],
    sharp: number,
  ): Generator<void, void> {
    const { scene, track } = output;
    const { band, values, height } = scene;
    const { before } = track!;
    const places = Math.max(1, Math.ceil(band.count / tilesInView));
    const same = [track!.all, band.step, places, height, sharp, values.start, values.end, values.scale];
    const now = [...same, ...values.domain, ...colours];
    if (now.length !== this.drawn.length || now.some((part, i) => part !== this.drawn[i])) this.forget();
    this.drawn = now;

    const [first, last] = [before, before + band.count - 1].map((place) => Math.floor(place / places));
    const seen: HTMLCanvasElement[] = [];
    for (let at = first!; at <= last!; at++) {
      const known = this.tiles.get(at);
      seen.push(known ?? this.draw(at, places, output, colours, sharp));
      if (!known && at < last! && track!.all.length > manyReadings) yield;
    }
    // Dots of the screen, so that none of a tile falls between two of them.
    const dots = (px: number) => Math.round(px * sharp);
    const shift = dots(band.start + band.step / 2) - dots(before * band.step);
    const context = onto();
    context.save();
    context.resetTransform();
    context.beginPath();
    // From the first point in view to the last, where other lines end too.
    const ends = [0.5, band.count - 0.5].map((place) => dots(band.start + place * band.step));
    context.rect(ends[0]!, 0, ends[1]! - ends[0]!, dots(height));
    context.clip();
    for (const [i, tile] of seen.entries())
      context.drawImage(tile, shift + dots((first! + i) * places * band.step), 0);
    context.restore();
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
