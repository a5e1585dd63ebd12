import { columns, type Place } from '@sorvik/core/board/layout';
import type { TextMeasure } from '@sorvik/core/forms/scene';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { make } from '../svg';
import { paintChart, paintGround, type SheetWords, sheetMargin } from './chart-sheet';
import { writeLines } from './write-lines';

const gap = 12;
/** The height of a row of the board at least, and of the plot of a chart, px. */
const leastRow = 80;
const leastPlot = 90;

/** A paragraph of a note. */
export interface NoteLine {
  text: string;
  size: number;
  bold?: boolean;
}

/** What lies on a board: a chart in any size, a note, or what is said in place of a chart. */
export type SheetCell = { place: Place } & (
  | { chart(size: { width: number; height: number }): ChartResult; words: SheetWords }
  | { lines: readonly NoteLine[] }
);

export interface BoardSheet {
  title: string;
  subtitle: string;
  /** Said at the very end. */
  foot: string;
  /** In the order in which they are read. */
  cells: readonly SheetCell[];
  width: number;
  /** The height that the whole has at least: rows share it. */
  height: number;
  measure: TextMeasure;
}

/** A part of a sheet that is not to be torn apart, and where it lies, px. */
export interface SheetBox {
  element: SVGElement;
  top: number;
  bottom: number;
}

/** Where the rows of a board begin, px: a cell that needs more room moves down those that begin after it. */
class Rows {
  private readonly tops: number[];

  constructor(first: number, count: number, height: number) {
    this.tops = Array.from({ length: count + 1 }, (_, row) => first + row * (height + gap));
  }

  top(row: number): number {
    return this.tops[row]!;
  }

  /** Something ends before a row, at `bottom`. */
  end(row: number, bottom: number): void {
    const more = bottom + gap - this.tops[row]!;
    if (more > 0) for (let r = row; r < this.tops.length; r++) this.tops[r]! += more;
  }

  get bottom(): number {
    return this.tops.at(-1)!;
  }
}

/** Draws a board as it lies: its title, charts and notes. Returns its size, px, and its parts. */
export function paintBoard(
  sheet: SVGSVGElement,
  { title, subtitle, foot, cells, width, height, measure }: BoardSheet,
): { width: number; height: number; boxes: SheetBox[] } {
  const sized = paintGround(sheet);
  const boxes: SheetBox[] = [];
  /** Draws a part from `top` on; what is drawn tells its height. */
  const draw = (top: number, paint: (part: SVGElement) => number): number => {
    const part = make('g', sheet);
    const bottom = top + paint(part);
    boxes.push({ element: part, top, bottom });
    return bottom;
  };
  const room = width - 2 * sheetMargin;
  const text = { x: sheetMargin, room, measure };
  const write = (part: SVGElement, y: number, said: string, size: number, look: string, bold = false) =>
    said ? writeLines(part, said, { ...text, y, size, look, bold }) : 0;
  const head = draw(sheetMargin, (part) => {
    const titled = write(part, sheetMargin, title, 22, '', true);
    return titled + write(part, sheetMargin + titled, subtitle, 14, 'sv-tick');
  });
  const count = Math.max(0, ...cells.map(({ place }) => place.row + place.height));
  const share = (height - head - gap - 2 * sheetMargin - 20) / Math.max(1, count) - gap;
  const rows = new Rows(head + gap, count, Math.max(leastRow, Math.floor(share)));
  const column = (room + gap) / columns;
  cells.forEach((cell, i) => {
    const { place } = cell;
    const x = sheetMargin + place.column * column;
    const wide = place.width * column - gap;
    const top = rows.top(place.row);
    const high = rows.top(place.row + place.height) - gap - top;
    const bottom = draw(top, (part) => {
      if ('lines' in cell) {
        let y = top;
        for (const { text, ...line } of cell.lines)
          y += writeLines(part, text, { x, y, room: wide, measure, ...line }) + 6;
        return y - top;
      }
      const fitted = (said: number) =>
        cell.chart({ width: Math.floor(wide), height: Math.max(leastPlot, Math.floor(high - said)) });
      return paintChart(part, fitted(0), cell.words, { x, y: top, room: wide, id: `plot-${i}`, fit: fitted });
    });
    rows.end(place.row + place.height, bottom);
  });
  const end = draw(rows.bottom, (part) => write(part, rows.bottom, foot, 12, 'sv-tick'));
  const full = Math.ceil(end + sheetMargin);
  sized(width, full);
  return { width, height: full, boxes };
}
