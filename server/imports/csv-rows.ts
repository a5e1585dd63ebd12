import type { Readable } from 'node:stream';
import Papa from 'papaparse';
import { tell } from '../tell';

export interface CsvBatch {
  rows: string[][];
  /** The 1-based line on which each row begins. */
  lines: number[];
  /** Rows of this batch whose quotes do not match up. */
  broken: Set<number>;
}

/** A row may not be longer than this: a quote that is never closed would swallow the rest of the file. */
export const maxRowLength = 8 * 1024 * 1024;

export class UnclosedQuote extends Error {
  constructor(readonly line: number) {
    super(tell('csvRows.theRowThatBegins', { n: line }));
  }
}

const lineBreaks = (row: string[]) => {
  let n = 0;
  for (const cell of row) for (let at = cell.indexOf('\n'); at >= 0; at = cell.indexOf('\n', at + 1)) n++;
  return n;
};

/** Reads separated text in batches, taking more from `source` only when `onBatch` is through with the last one. */
export function readCsv(
  source: Readable,
  separator: string,
  onBatch: (batch: CsvBatch) => Promise<void> | void,
  signal?: AbortSignal,
): Promise<void> {
  let line = 1;
  let sinceRow = 0;
  let quotes = false;
  source.on('data', (text: string) => {
    sinceRow += text.length;
    quotes ||= text.includes('"');
    if (sinceRow > maxRowLength) source.destroy(new UnclosedQuote(line));
  });
  return new Promise((resolve, reject) => {
    const fail = (error: unknown, parser?: Papa.Parser) => {
      // First of all: aborting reports completion, which must not pass for success.
      reject(error);
      parser?.abort();
      source.destroy();
    };
    source.once('error', fail);
    Papa.parse<string[]>(source as unknown as File, {
      delimiter: separator,
      skipEmptyLines: false,
      chunk({ data, errors }, parser) {
        if (data.length) sinceRow = 0;
        const lines = new Array<number>(data.length);
        for (let i = 0; i < data.length; i++) {
          lines[i] = line;
          line += 1 + (quotes ? lineBreaks(data[i]!) : 0);
        }
        const broken = new Set(
          errors.filter((error) => error.type === 'Quotes').map((error) => error.row ?? 0),
        );
        // The parser alone would let the source run on, and keep all of it.
        parser.pause();
        source.pause();
        (async () => onBatch({ rows: data, lines, broken }))().then(
          () => {
            if (signal?.aborted) return fail(signal.reason, parser);
            source.resume();
            parser.resume();
          },
          (error) => fail(error, parser),
        );
      },
      complete: () => resolve(),
      error: reject,
    });
  });
}

/** Rows of a text that is wholly in memory. */
export const parseText = (text: string, separator: string, limit = 0): string[][] =>
  Papa.parse<string[]>(text, { delimiter: separator, preview: limit }).data;
