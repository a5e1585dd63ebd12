/** Where a lever stands: a figure, on or off, a value, or a list of values; null or an empty list where it holds nothing. */
export type PlainPosition = string | number | boolean | null | readonly (string | number | boolean | null)[];

/** A mark as plain data. */
export interface PlainMark {
  category: string | number | boolean | null;
  /** Its series; left out where the chart has none. */
  series?: string | number | boolean | null;
  /** Null where there is none. */
  value: number | null;
  state: 'plain' | 'muted' | 'lit' | 'gone';
}

/** How a chart is lit. */
export interface Lit {
  /** All marks, in the order of the chart. */
  marks: PlainMark[];
  /** What is lit, in words. */
  caption: string;
}

/**
 * How a chart of rows is lit where its levers stand, for those who draw it themselves: a pure function. `description` is a chart, or a
 * board with levers and one chart, as the JSON Schema of boards has them. Throws where that cannot be read, or where a figure can only be
 * computed by a server.
 */
export function light(
  rows: readonly object[],
  description: object,
  positions?: Readonly<Record<string, PlainPosition>>,
): Lit;
