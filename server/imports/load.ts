import { once } from 'node:events';
import type { Writable } from 'node:stream';
import type { Reject } from '@sorvik/core/board/api-types';
import type { FieldType } from '@sorvik/core/data/values';
import type pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { quoted } from '../db/client';
import { cutText } from '../http/well-formed';
import { makeRowTable } from '../sources/postgres/row-table';
import { tell } from '../tell';
import { type ColumnPlan, cellReader, widened } from './column-plan';
import { readCsv } from './csv-rows';
import { PlainRows, plainNewline } from './plain-rows';
import type { SentLines } from './sent-lines';
import { type Arriving, type ByteText, type Encoding, headOf, piecesOf, readable, textOf } from './text-file';

export const sqlTypes: Record<FieldType, string> = {
  integer: 'bigint',
  decimal: 'double precision',
  text: 'text',
  boolean: 'boolean',
  date: 'date',
  datetime: 'timestamp',
};

export interface LoadProgress {
  bytes: number;
  rows: number;
  rejected: number;
}

/** A column turned out to hold something wider than its samples did: the load begins again with this plan. */
export class WiderColumn extends Error {
  constructor(
    readonly index: number,
    readonly plan: ColumnPlan,
  ) {
    super(`${plan.name} is wider than its samples`);
  }
}

/** Kept word for word; beyond that, rejected rows are only counted. */
export const maxKeptRejects = 100_000;
/** Bytes that may wait for the database while the next rows are read: neither side stands still for the other. */
const sendAhead = 8 * 1024 * 1024;
/** A column is taken for text when, past this many misfits, more than one row in ten does not fit. */
const patience = 200;

const needsEscape = /[\\\n\r\t]/;
const escapes: Record<string, string> = { '\\': '\\\\', '\n': '\\n', '\r': '\\r', '\t': '\\t' };
const escaped = (text: string) =>
  needsEscape.test(text) ? text.replace(/[\\\n\r\t]/g, (c) => escapes[c]!) : text;
/** A value as COPY's text format has it. */
export const copyText = (value: string | null): string => (value === null ? '\\N' : escaped(value));
const isSpace = (code: number) => code === 32 || (code >= 9 && code <= 13);

/** Without the white space around it. Only ASCII's: any other byte may be part of a letter. */
function trimmed(cell: ByteText): ByteText {
  let start = 0;
  let end = cell.length;
  while (start < end && isSpace(cell.charCodeAt(start))) start++;
  while (end > start && isSpace(cell.charCodeAt(end - 1))) end--;
  return start === 0 && end === cell.length ? cell : cell.slice(start, end);
}

/**
 * Turns rows into lines of COPY's text format, setting aside those that do not fit. `onEscape` hears of lines in which
 * something is written otherwise than it is.
 */
export function rowEncoder(plans: readonly ColumnPlan[], onEscape: () => void = () => {}) {
  const readers = plans.map(cellReader);
  const isText = plans.map((plan) => plan.type === 'text');
  const misfits = plans.map(() => 0);
  let seen = 0;
  const reject = (line: number, column: string, reason: string, cells: ByteText[]): Reject => ({
    line,
    column,
    reason,
    cells: cells.map(readable),
  });

  /** A cell that does not fit: throws when its column has to be made wider, else gives the reason. */
  const misfit = (c: number, text: string): string => {
    const plan = plans[c]!;
    const wider = widened(plan, text);
    misfits[c]!++;
    if (plan.fixed) return tell('load.isNot', { text: cutText(text, 60), type: plan.type });
    // A decimal among whole numbers is no misfit at all; anything else has to be frequent before it counts as text.
    if (wider.type !== 'text' || (misfits[c]! > patience && misfits[c]! * 10 > seen))
      throw new WiderColumn(c, wider);
    return tell('load.isNot', { text: cutText(text, 60), type: plan.type });
  };

  return (cells: ByteText[], line: number, broken: boolean): ByteText | Reject => {
    seen++;
    if (broken) return reject(line, '', tell('load.aQuotationMarkIs'), cells);
    if (cells.length !== plans.length)
      return reject(line, '', tell('load.cells', { cells: cells.length, columns: plans.length }), cells);
    let out = '';
    for (let c = 0; c < cells.length; c++) {
      const cell = trimmed(cells[c]!);
      if (c > 0) out += '\t';
      if (cell === '') out += '\\N';
      else if (isText[c]) {
        if (cell.includes('\0')) return reject(line, plans[c]!.name, tell('load.holdsAZeroByte'), cells);
        const sent = escaped(cell);
        if (sent !== cell) onEscape();
        out += sent;
      } else {
        const read = readers[c]!;
        // Spaces between thousands may be longer than a byte: those few are read as text.
        const value = read(cell) ?? read(readable(cell).trim());
        if (value === undefined) return reject(line, plans[c]!.name, misfit(c, readable(cell)), cells);
        out += value;
      }
    }
    return out;
  };
}

/** Waits until a stream takes more, or has failed. */
const drained = (stream: Writable) =>
  new Promise<void>((go) => {
    const on = () => {
      stream.off('drain', on);
      stream.off('error', on);
      stream.off('close', on);
      go();
    };
    stream.on('drain', on);
    stream.on('error', on);
    stream.on('close', on);
  });

export interface LoadInput {
  path: string;
  /** No quotation mark is in it. */
  unquoted: boolean;
  /** It is still being written. */
  arriving?: Arriving | undefined;
  /** Where what is sent to the database is kept too. */
  sent?: SentLines | undefined;
  encoding: Encoding;
  separator: string;
  plans: readonly ColumnPlan[];
  keys: readonly string[];
  /** Where the rows go; made here, inside the caller's transaction. */
  table: string;
}

/** Creates the table and copies all rows of a file into it; what makes it fast to read comes after. Throws `WiderColumn` when a plan turns out too narrow. */
export async function loadRows(
  client: pg.ClientBase,
  input: LoadInput,
  onProgress: (progress: LoadProgress) => Promise<void>,
  signal: AbortSignal,
): Promise<{ rows: number; rejected: number; rejects: Reject[] }> {
  const { path, arriving, sent, encoding, separator, plans, keys, table } = input;
  const columns = plans.map((plan, i) => `${quoted(keys[i]!)} ${sqlTypes[plan.type]}`);
  await makeRowTable(client, table, columns);
  const copy = client.query(copyFrom(`COPY ${table} FROM STDIN WITH (FREEZE)`, { highWaterMark: sendAhead }));
  let copyError: unknown;
  copy.on('error', (error) => {
    copyError ??= error;
  });
  const encode = rowEncoder(plans, () => sent?.giveUp());
  const rejects: Reject[] = [];
  const progress: LoadProgress = { bytes: 0, rows: 0, rejected: 0 };
  let head = true;
  /** A row as a line to be sent on; null for one that is passed over, or set aside. */
  const lineOf = (row: ByteText[], line: number, broken: boolean): ByteText | null => {
    if (row.length === 1 && row[0]!.trim() === '' && (plans.length > 1 || row[0] === '')) return null;
    if (head) {
      head = false;
      return null;
    }
    const encoded = encode(row, line, broken);
    if (typeof encoded === 'string') return encoded;
    progress.rejected++;
    if (rejects.length < maxKeptRejects) rejects.push(encoded);
    return null;
  };
  const send = async (lines: Buffer) => {
    if (copyError) throw copyError;
    sent?.write(lines, progress.rows);
    if (lines.length && !copy.write(lines)) await drained(copy);
    await onProgress(progress);
  };
  const onBytes = (bytes: number) => {
    progress.bytes = bytes;
  };
  try {
    const newline = encoding === 'utf-8' && input.unquoted ? plainNewline(await headOf(path)) : null;
    if (newline) {
      const rows = new PlainRows(
        plans,
        separator,
        newline,
        () => progress.rows++,
        (line, number) => lineOf(line.split(separator), number, false),
      );
      for await (const piece of piecesOf(path, onBytes, arriving)) {
        signal.throwIfAborted();
        await send(rows.take(piece));
      }
      await send(rows.end());
    } else
      await readCsv(
        textOf(path, encoding, onBytes, arriving),
        separator,
        async ({ rows, lines, broken }) => {
          let out = '';
          for (let i = 0; i < rows.length; i++) {
            const line = lineOf(rows[i]!, lines[i]!, broken.has(i));
            if (line !== null) out += `${line}\t${progress.rows++}\n`;
          }
          await send(Buffer.from(out, 'latin1'));
        },
        signal,
      );
    if (copyError) throw copyError;
    copy.end();
    await once(copy, 'finish');
    if (copyError) throw copyError;
  } catch (error) {
    copy.destroy();
    throw copyError ?? error;
  }
  return { rows: progress.rows, rejected: progress.rejected, rejects };
}
