import type { PlainMark, PlainPosition } from './light';

export type { PlainMark, PlainPosition };

/** Where levers stand, by their ids. */
export type PlainPositions = Readonly<Record<string, PlainPosition>>;

/** A viewer has moved a lever by hand: `passing` while a drag goes on. */
export interface MoveDetail {
  lever: string;
  position: PlainPosition;
  positions: Record<string, PlainPosition>;
  passing: boolean;
}

/** Other marks of a chart are lit than before. */
export interface LitDetail {
  chart: string;
  lit: readonly PlainMark[];
}

interface PartElement extends HTMLElement {
  /** Where the levers of its board stand; setting it moves those that are named. */
  get positions(): Record<string, PlainPosition>;
  set positions(positions: PlainPositions);
}

/** `<sorvik-chart src="https://boards.example/show/routes#by-route" count="5">` */
export interface ChartElement extends PartElement {
  /** Rows of the page: records, or bytes of Arrow IPC. */
  data: unknown;
  /** The chart that they are drawn as, or a board with levers and charts. */
  description: unknown;
  readonly litMarks: readonly PlainMark[];
  /** The chart as it is now, as a file. Rejects while there is none. */
  picture(options?: { format?: 'svg' | 'png'; scale?: number }): Promise<Blob>;
}
export const ChartElement: { new (): ChartElement; prototype: ChartElement };

/** `<sorvik-lever src="https://boards.example/show/routes#count">` */
export interface LeverElement extends PartElement {}
export const LeverElement: { new (): LeverElement; prototype: LeverElement };

declare global {
  interface HTMLElementTagNameMap {
    'sorvik-chart': ChartElement;
    'sorvik-lever': LeverElement;
  }
  interface HTMLElementEventMap {
    'sorvik:move': CustomEvent<MoveDetail>;
    'sorvik:lit': CustomEvent<LitDetail>;
  }
}
