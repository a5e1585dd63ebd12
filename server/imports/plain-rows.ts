import type { FieldType } from '@sorvik/core/data/values';
import type { ColumnPlan } from './column-plan';
import { maxRowLength, UnclosedQuote } from './csv-rows';
import type { ByteText } from './text-file';

/** The bytes that end a row. */
export type Newline = '\n' | '\r\n';

const [tab, feed, back, space, dot, minus, zero, nine] = [9, 10, 13, 32, 46, 45, 48, 57];
const [backslash, capitalN] = [92, 78];
/** Numbers of so many digits are exact. */
const mostDigits = 15;

/**
 * How the rows of a file end, by its beginning: null where it has quotes, or ends of more than one kind, which take a closer
 * look.
 */
export function plainNewline(bytes: Buffer): Newline | null {
  if (bytes.includes('"')) return null;
  if (!bytes.includes(back)) return '\n';
  for (let at = bytes.indexOf(feed); at >= 0; at = bytes.indexOf(feed, at + 1))
    if (bytes[at - 1] !== back) return null;
  for (let at = bytes.indexOf(back); at >= 0; at = bytes.indexOf(back, at + 1))
    if (at + 1 < bytes.length && bytes[at + 1] !== feed) return null;
  return bytes.includes(feed) ? '\r\n' : null;
}

const isDigit = (byte: number | undefined) => byte !== undefined && byte >= zero && byte <= nine;
const two = (bytes: Buffer, at: number) => (bytes[at]! - zero) * 10 + bytes[at + 1]! - zero;

/** Whether ten bytes are a day of the calendar as ISO writes it; the 29th of February takes a closer look. */
function isDay(bytes: Buffer, at: number): boolean {
  for (const place of [0, 1, 2, 3, 5, 6, 8, 9]) if (!isDigit(bytes[at + place])) return false;
  if (bytes[at + 4] !== minus || bytes[at + 7] !== minus) return false;
  const [month, day] = [two(bytes, at + 5), two(bytes, at + 8)];
  if (month < 1 || month > 12 || day < 1) return false;
  if (two(bytes, at) === 0 && two(bytes, at + 2) === 0) return false;
  return day <= (month === 2 ? 28 : month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31);
}

/** Whether eight bytes are a time of day. */
const isTime = (bytes: Buffer, at: number): boolean =>
  [0, 1, 3, 4, 6, 7].every((place) => isDigit(bytes[at + place])) &&
  bytes[at + 2] === 58 &&
  bytes[at + 5] === 58 &&
  two(bytes, at) < 24 &&
  two(bytes, at + 3) < 60 &&
  two(bytes, at + 6) < 60;

/** How a cell of a type is known to be written as PostgreSQL takes it. */
type Written = 'text' | 'whole' | 'number' | 'day' | 'moment' | 'none';

const writtenAs: Record<FieldType, (plan: ColumnPlan) => Written> = {
  text: () => 'text',
  integer: () => 'whole',
  decimal: ({ number }) => (number.decimal === '.' ? 'number' : 'whole'),
  boolean: () => 'none',
  date: ({ date }) => (date === 'ymd' ? 'day' : 'none'),
  datetime: ({ date }) => (date === 'ymd' ? 'moment' : 'none'),
};

/** What a row becomes that does not stand in the file as it is sent on; null for one that is passed over. */
export type OtherRow = (line: ByteText, number: number) => ByteText | null;

/** What a row could grow by at most: an empty cell becomes two bytes, and its place comes behind it. */
const placeRoom = 24;

/**
 * Turns the bytes of a file without quotes into lines of COPY's text format. Rows that stand there as they are sent on, as
 * most do, are copied byte by byte; all others are told to `other`. The result is the same.
 */
export class PlainRows {
  private rest: Buffer = Buffer.alloc(0);
  private out = Buffer.alloc(0);
  private length = 0;
  private line = 0;
  private readonly separator: number;
  private readonly written: readonly Written[];

  constructor(
    plans: readonly ColumnPlan[],
    separator: string,
    private readonly newline: Newline,
    /** Of each row that is sent on the place. */
    private readonly nextPlace: () => number,
    private readonly other: OtherRow,
  ) {
    this.separator = separator.charCodeAt(0);
    this.written = plans.map((plan) => writtenAs[plan.type](plan));
  }

  /** The lines of the rows that end in a piece of the file. Throws where a row is longer than any may be. */
  take(piece: Buffer): Buffer {
    const bytes = this.rest.length ? Buffer.concat([this.rest, piece]) : piece;
    this.begin(bytes.length);
    let from = 0;
    for (let end = this.endFrom(bytes, from); end >= 0; end = this.endFrom(bytes, from)) {
      this.row(bytes, from, end - this.newline.length + 1);
      from = end + 1;
    }
    this.rest = bytes.subarray(from);
    if (this.rest.length > maxRowLength) throw new UnclosedQuote(this.line + 1);
    return this.out.subarray(0, this.length);
  }

  /** What is left after the last piece: a row without an end. */
  end(): Buffer {
    const bytes = this.rest;
    this.begin(bytes.length);
    if (bytes.length) this.row(bytes, 0, bytes.length);
    return this.out.subarray(0, this.length);
  }

  private begin(size: number): void {
    this.out = Buffer.allocUnsafe(size * 2 + 4096);
    this.length = 0;
  }

  /** Where the row ends that begins at `from`, at its last byte; -1 where it does not end here. */
  private endFrom(bytes: Buffer, from: number): number {
    let at = bytes.indexOf(feed, from);
    if (this.newline === '\r\n') while (at >= 0 && bytes[at - 1] !== back) at = bytes.indexOf(feed, at + 1);
    return at;
  }

  private row(bytes: Buffer, from: number, to: number): void {
    this.line++;
    this.room(3 * (to - from) + placeRoom);
    // The first row is the head.
    const end = this.line > 1 ? this.copied(bytes, from, to) : -1;
    if (end >= 0) {
      this.length = end;
      this.place();
      return;
    }
    const line = this.other(bytes.toString('latin1', from, to), this.line);
    if (line === null) return;
    this.room(line.length + placeRoom);
    this.length += this.out.write(line, this.length, 'latin1');
    this.place();
  }

  private place(): void {
    const { out } = this;
    out[this.length++] = tab;
    this.length += out.write(String(this.nextPlace()), this.length, 'latin1');
    out[this.length++] = feed;
  }

  private room(more: number): void {
    if (this.length + more <= this.out.length) return;
    const larger = Buffer.allocUnsafe(2 * this.out.length + more);
    this.out.copy(larger, 0, 0, this.length);
    this.out = larger;
  }

  /** Copies a row; gives where it ends in what is sent on, or -1 where some cell takes a closer look. */
  private copied(bytes: Buffer, from: number, to: number): number {
    const { out, written, separator } = this;
    const last = written.length - 1;
    let at = from;
    let o = this.length;
    for (let c = 0; c <= last; c++) {
      const start = at;
      switch (written[c]) {
        case 'text':
          for (; at < to; at++) {
            const byte = bytes[at]!;
            if (byte === separator) break;
            if (byte < space || byte === backslash) return -1;
            out[o++] = byte;
          }
          if (at > start && (bytes[start] === space || bytes[at - 1] === space)) return -1;
          break;
        case 'whole':
        case 'number': {
          if (bytes[at] === minus && at < to) out[o++] = bytes[at++]!;
          const digits = at;
          let point = written[c] === 'whole';
          for (; at < to; at++) {
            const byte = bytes[at]!;
            if (byte === separator) break;
            if (byte < zero || byte > nine) {
              if (byte !== dot || point || at === digits) return -1;
              point = true;
            }
            out[o++] = byte;
          }
          if (at - digits > mostDigits || (at === digits && at > start)) return -1;
          break;
        }
        case 'day':
          if (at < to && bytes[at] !== separator) {
            if (to - at < 10 || !isDay(bytes, at)) return -1;
            for (const end = at + 10; at < end; at++) out[o++] = bytes[at]!;
          }
          break;
        case 'moment':
          if (at < to && bytes[at] !== separator) {
            const joined = bytes[at + 10] === space || bytes[at + 10] === 84;
            if (to - at < 19 || !joined || !isDay(bytes, at) || !isTime(bytes, at + 11)) return -1;
            for (const end = at + 19; at < end; at++) out[o++] = bytes[at]!;
            out[o - 9] = space;
          }
          break;
        default:
          if (at < to && bytes[at] !== separator) return -1;
      }
      if (at === start) {
        out[o++] = backslash;
        out[o++] = capitalN;
      }
      if (c === last) break;
      if (at >= to || bytes[at] !== separator) return -1;
      at++;
      out[o++] = tab;
    }
    // A row that is empty altogether may be one to be passed over.
    return at === to && to > from ? o : -1;
  }
}
