import type { PointMarks } from '@sorvik/core/forms/scene';
import { markStates, stateCode } from '@sorvik/core/pipeline/emphasise';
import type { LineState } from '@sorvik/core/pipeline/line-states';
import { markersOf } from '@sorvik/core/pipeline/markers';
import { groundOf, linePoints, type Polylines, piecePoints } from '@sorvik/core/pipeline/piece-points';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { symbol } from 'd3-shape';
import { FrameTask } from '../frame-task';
import { Kept, keyAttribute, make, Written, writeText } from '../svg';
import type { LayerKind, LayerOptions, MarkLayer } from './layer-kind';
import { LineCanvas } from './line-canvas';
import { type LitLine, litLines } from './lit-lines';
import { MarkCursor } from './mark-cursor';
import { paintLook, shownLook } from './paint-look';
import { symbols } from './symbols';

/** A tenth of a pixel is finer than anybody sees, and a third of the text. */
const tenth = (px: number) => Math.round(px * 10) / 10;

function pathOf(lines: Polylines): string {
  let path = '';
  for (const line of lines)
    for (let i = 0; i < line.length; i += 2)
      path += `${i ? 'L' : 'M'}${tenth(line[i]!)} ${tenth(line[i + 1]!)}`;
  return path;
}

/** Lines whose points are more than this are painted a frame after the other. */
const pointsAtOnce = 12_000;
/** Lines of more points than this are painted on a canvas: there they take less time than as elements, see `npm run bench`. */
const canvasFrom = 8000;
/** So are more lines than this. */
const mostLines = 500;
/** Lit lines of so many points are elements even over a canvas: those the browser paints beside the script. */
const litElements = 7000;

/** So many points of a line are painted at most: what is more than pixels is condensed. */
const seenOf = (readings: number, width: number) => Math.min(readings, 4 * Math.ceil(width));

interface PaintedLine {
  group: Written<SVGGElement>;
  ground: Written<SVGPathElement>;
  path: Written<SVGPathElement>;
}

const isFilled = ({ scene }: ChartResult) => (scene.marks as PointMarks).base !== undefined;

/**
 * Lines: one path for each series, the lit pieces and the markers over them, and names at their ends. Only what is lit
 * differently is written, and lit lines are brought to the front.
 */
class LineLayer implements MarkLayer {
  private readonly lines: PaintedLine[] = [];
  private readonly lineLayer: SVGGElement;
  private readonly grounds: Kept<'path'>;
  private readonly pieces: Kept<'path'>;
  private readonly markers: Kept<'path'>;
  private readonly names: Kept<'text'>;
  private readonly cursor: MarkCursor;
  private canvas: LineCanvas | null = null;
  private last!: ChartResult;
  private readonly following = new FrameTask();

  constructor(
    layer: SVGGElement,
    private readonly options: LayerOptions,
  ) {
    this.lineLayer = make('g', layer);
    this.grounds = new Kept('path', make('g', layer), 'sv-ground sv-ground-lit');
    this.pieces = new Kept('path', make('g', layer), 'sv-stroke sv-piece');
    this.markers = new Kept('path', make('g', layer), 'sv-marker');
    this.names = new Kept('text', make('g', layer), 'sv-text sv-name');
    for (const group of layer.children) group.setAttribute('aria-hidden', 'true');
    this.cursor = new MarkCursor(layer, options);
  }

  paint(output: ChartResult): void {
    this.last = output;
    const { readings } = output;
    const series = readings.starts.length - 1;
    const many = readings.length > canvasFrom || series > mostLines;
    const onCanvas = !this.options.carried && many;
    if (onCanvas) this.canvas ??= new LineCanvas(this.lineLayer);
    else this.canvas?.remove();
    if (!onCanvas) this.canvas = null;
    const count = onCanvas ? 0 : series;
    while (this.lines.length > count) this.lines.pop()!.group.element.remove();
    while (this.lines.length < count) {
      const group = make('g', this.lineLayer, 'sv-strand');
      this.lines.push({
        group: new Written(group),
        ground: new Written(make('path', group, 'sv-ground')),
        path: new Written(make('path', group, 'sv-stroke')),
      });
    }
    this.states(output, true);
    this.paintLines(0);
    this.cursor.place(output);
  }

  restate(output: ChartResult, last: ChartResult): void {
    this.last = output;
    if (output.emphasis !== last.emphasis || output.names !== last.names) this.states(output, false);
    this.cursor.place(output);
  }

  stop(): void {
    this.following.cancel();
    this.canvas?.remove();
    this.canvas = null;
  }

  focus(index: number, shown: boolean): string {
    return this.cursor.focus(index, shown, this.last);
  }

  markAt(index: number): Element | undefined {
    return this.cursor.at(index, this.last);
  }

  private paintLines(from: number): void {
    this.following.cancel();
    const { scene, readings } = this.last;
    let points = 0;
    let series = from;
    for (; series < this.lines.length && (points < pointsAtOnce || this.options.carried); series++) {
      const line = this.lines[series]!;
      const tops = linePoints(scene, readings, series);
      line.path.set('d', pathOf(tops));
      const bases = isFilled(this.last) ? linePoints(scene, readings, series, 'base') : [];
      line.ground.set('d', pathOf(bases.map((base, run) => groundOf(tops[run]!, base))));
      line.group.set('data-series', keyAttribute(readings.series[series]));
      points += readings.starts[series + 1]! - readings.starts[series]!;
    }
    if (series < this.lines.length) this.following.set(() => this.paintLines(series));
  }

  private states(output: ChartResult, remade: boolean): void {
    this.paintMarkers(output);
    this.paintNames(output);
    const { lineStates, readings, scene } = output;
    if (this.canvas) {
      const lit = litLines(output);
      const few = lit.reduce((points, { length }) => points + seenOf(length, scene.width), 0) <= litElements;
      this.canvas.paint(output, few ? [] : lit, remade);
      this.paintLit(few ? lit : [], output);
      return;
    }
    const lit: { lineState: LineState; onTop: boolean }[] = [];
    for (const lineState of lineStates ?? []) {
      const line = this.lines[lineState.series];
      if (!line) continue;
      const state = markStates[lineState.state]!;
      const look = shownLook(output, lineState.look, lineState.state, lineState.series);
      line.group.set('data-state', state);
      paintLook(line.group, look, readings, readings.starts[lineState.series]!);
      if (lineState.look >= 0) lit.push({ lineState, onTop: look?.onTop === true });
    }
    lit.sort((a, b) => Number(a.onTop) - Number(b.onTop));
    this.bringForward(lit.map(({ lineState }) => this.lines[lineState.series]!.group.element));

    const pieces = (lineStates ?? []).flatMap((lineState) =>
      lineState.pieces.map((piece) => ({ lineState, piece })),
    );
    this.grounds.paint(isFilled(output) ? pieces.length : 0, (path, i) => {
      const { lineState, piece } = pieces[i]!;
      const top = piecePoints(scene, readings, piece);
      path.set('d', pathOf([groundOf(top, piecePoints(scene, readings, piece, 'base'))]));
      paintLook(
        path,
        shownLook(output, piece.look, stateCode.lit, lineState.series),
        readings,
        piece.reading,
      );
    });
    this.pieces.paint(pieces.length, (path, i) => {
      const { lineState, piece } = pieces[i]!;
      path.set('d', pathOf([piecePoints(scene, readings, piece)]));
      path.set('data-series', keyAttribute(readings.series[lineState.series]));
      paintLook(
        path,
        shownLook(output, piece.look, stateCode.lit, lineState.series),
        readings,
        piece.reading,
      );
    });
  }

  /** Lit lines over the canvas that has the others. */
  private paintLit(lit: readonly LitLine[], output: ChartResult): void {
    const { readings } = output;
    this.grounds.paint(isFilled(output) ? lit.length : 0, (path, i) => {
      const { tops, bases, look, reading } = lit[i]!;
      const below = bases();
      path.set('d', pathOf(tops().map((top, run) => groundOf(top, below[run]!))));
      paintLook(path, look, readings, reading);
    });
    this.pieces.paint(lit.length, (path, i) => {
      const { tops, look, reading, series } = lit[i]!;
      path.set('d', pathOf(tops()));
      path.set('data-series', keyAttribute(readings.series[series]));
      paintLook(path, look, readings, reading);
    });
  }

  /** The lit lines last, so that they lie over the others; moved only where they do not already. */
  private bringForward(groups: readonly Element[]): void {
    const there = [...this.lineLayer.children].slice(-groups.length || Number.POSITIVE_INFINITY);
    if (groups.every((group, i) => group === there[i])) return;
    this.lineLayer.append(...groups);
  }

  private paintMarkers(output: ChartResult): void {
    const { scene, readings, emphasis, lineStates } = output;
    const { x, y } = scene.marks as PointMarks;
    const markers = markersOf(scene, readings, emphasis, lineStates ?? []);
    this.markers.paint(markers.length, (path, i) => {
      const { index, shape, size } = markers[i]!;
      const state = emphasis.state[index]!;
      path.set('d', symbol(symbols[shape], (Math.PI * size * size) / 4)() ?? '');
      path.set('transform', `translate(${tenth(x[index]!)} ${tenth(y[index]!)})`);
      path.set('data-state', markStates[state]!);
      path.set('data-shape', shape);
      path.set('data-key', keyAttribute(readings.category[index]));
      if (readings.series.length)
        path.set('data-series', keyAttribute(readings.series[readings.seriesOf[index]!]));
      const look = shownLook(output, emphasis.look[index]!, state, readings.seriesOf[index]!);
      paintLook(path, look, readings, index);
    });
  }

  private paintNames(output: ChartResult): void {
    const { names, lineStates, readings } = output;
    const strandOf = new Map((lineStates ?? []).map((lineState) => [lineState.series, lineState]));
    // Each element keeps its series while the names change places: what moves need not be written anew.
    const bySeries = names.toSorted((a, b) => a.mark! - b.mark!);
    this.names.paint(names.length, (text, i) => {
      const name = bySeries[i]!;
      const lineState = strandOf.get(name.mark!)!;
      const look = lineState.look >= 0 ? lineState.look : (lineState.pieces[0]?.look ?? -1);
      writeText(text, name, output.input.measure);
      text.set('data-series', keyAttribute(readings.series[name.mark!]));
      text.set('data-is', look >= 0 ? 'lit' : markStates[lineState.state]!);
      const state = look >= 0 ? stateCode.lit : lineState.state;
      paintLook(text, shownLook(output, look, state, name.mark!), readings, readings.starts[name.mark!]!);
    });
  }
}

export const lineLayer: LayerKind = {
  kind: 'points',
  clips: true,
  make: (layer, options) => new LineLayer(layer, options),
};
