import { isUtf8 } from 'node:buffer';
import { type FileHandle, open } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { setTimeout } from 'node:timers/promises';

export type Encoding = 'utf-8' | 'windows-1252' | 'utf-16le';

/** Keeps watch over bytes as they pass: whether they could be UTF-8, and whether they could be text at all. */
export class TextWatch {
  private rest = Buffer.alloc(0);
  private utf8 = true;
  private zeros = 0;
  private controls = 0;
  private head = Buffer.alloc(0);
  bytes = 0;
  /** Whether there is a quotation mark in it. */
  quoted = false;

  see(chunk: Buffer): void {
    if (this.head.length < 4) this.head = Buffer.concat([this.head, chunk.subarray(0, 4)]);
    this.bytes += chunk.length;
    this.quoted ||= chunk.includes('"');
    if (this.utf8) {
      const whole = this.rest.length ? Buffer.concat([this.rest, chunk]) : chunk;
      const cut = completeLength(whole);
      this.utf8 = isUtf8(whole.subarray(0, cut));
      this.rest = Buffer.from(whole.subarray(cut));
    }
    // A look at one byte in sixteen is enough to tell a picture or a spreadsheet file from text.
    for (let i = 0; i < chunk.length; i += this.bytes > 65_536 ? 16 : 1) {
      const byte = chunk[i]!;
      if (byte === 0) this.zeros++;
      else if (byte < 9 || (byte > 13 && byte < 32)) this.controls++;
    }
  }

  get encoding(): Encoding {
    if (this.head[0] === 0xff && this.head[1] === 0xfe) return 'utf-16le';
    return this.utf8 && this.rest.length === 0 ? 'utf-8' : 'windows-1252';
  }

  get binary(): boolean {
    if (this.encoding === 'utf-16le') return false;
    return this.zeros > 0 || this.controls > Math.max(8, this.bytes / 1000);
  }
}

/** The length of the longest beginning that does not end inside a UTF-8 sequence. */
function completeLength(bytes: Buffer): number {
  for (let back = 1; back <= Math.min(3, bytes.length); back++) {
    const byte = bytes[bytes.length - back]!;
    if ((byte & 0xc0) === 0x80) continue;
    const length = byte >= 0xf0 ? 4 : byte >= 0xe0 ? 3 : byte >= 0xc0 ? 2 : 1;
    return length > back ? bytes.length - back : bytes.length;
  }
  return bytes.length;
}

/** Text as the bytes of its UTF-8, one character a byte: cheap to cut up, and sent on without being encoded again. */
export type ByteText = string;
export const readable = (text: ByteText): string => Buffer.from(text, 'latin1').toString('utf8');

/** Brings a file's bytes to UTF-8 piece by piece. */
function utf8Pieces(encoding: Encoding): (chunk: Buffer) => ByteText {
  if (encoding === 'utf-8') return (chunk) => chunk.toString('latin1');
  const decoder = new TextDecoder(encoding);
  return (chunk) => Buffer.from(decoder.decode(chunk, { stream: true }), 'utf8').toString('latin1');
}

/** Bytes that are read at a time. */
const pieceBytes = 256 * 1024;
const mark = [0xef, 0xbb, 0xbf];
const isMarked = (bytes: Buffer) => mark.every((byte, i) => bytes[i] === byte);

/** A file that is read while it is still written. */
export interface Arriving {
  /** All of it is there. */
  whole: boolean;
}

/** So long whoever has read all that is there waits for more, ms. */
const untilMore = 15;

/**
 * A file's bytes piece by piece, without the mark at its beginning; `onBytes` hears how far it is. Of one that is still
 * arriving what is not there yet is waited for.
 */
export async function* piecesOf(
  path: string,
  onBytes: (total: number) => void,
  arriving?: Arriving,
): AsyncGenerator<Buffer> {
  const file = await open(path);
  try {
    for (let total = 0; ; ) {
      // Looked at first: what comes while it is read is then read too.
      const last = arriving?.whole !== false;
      const piece = await readAt(file, total, pieceBytes);
      if (!piece.length) {
        if (last) return;
        await setTimeout(untilMore);
        continue;
      }
      const first = total === 0;
      total += piece.length;
      onBytes(total);
      yield first && isMarked(piece) ? piece.subarray(mark.length) : piece;
    }
  } finally {
    await file.close();
  }
}

/** As much of a file's beginning as is read at a time. */
export async function headOf(path: string): Promise<Buffer> {
  const file = await open(path);
  try {
    return await readAt(file, 0, pieceBytes);
  } finally {
    await file.close();
  }
}

/** The file's text piece by piece; `onBytes` hears how far it is. */
export function textOf(
  path: string,
  encoding: Encoding,
  onBytes: (total: number) => void,
  arriving?: Arriving,
): Readable {
  async function* pieces() {
    const toUtf8 = utf8Pieces(encoding);
    for await (const piece of piecesOf(path, onBytes, arriving)) yield toUtf8(piece);
  }
  return Readable.from(pieces(), { objectMode: true, highWaterMark: 2 });
}

async function readAt(file: FileHandle, start: number, length: number): Promise<Buffer> {
  const buffer = Buffer.allocUnsafe(length);
  const { bytesRead } = await file.read(buffer, 0, length, start);
  return buffer.subarray(0, bytesRead);
}

/** So much of a file's beginning is looked at. */
export const headLength = 1024 * 1024;

/** Text from the beginning of a file, and from places spread over the rest of it, each from the start of a line. */
export async function sampleText(
  path: string,
  size: number,
  encoding: Encoding,
): Promise<{ head: string; spread: string[] }> {
  const headSize = Math.min(size, headLength);
  const pieceLength = 64 * 1024;
  const file = await open(path);
  try {
    const decode = (bytes: Buffer) => new TextDecoder(encoding).decode(bytes);
    const head = decode(await readAt(file, 0, headSize));
    const spread: string[] = [];
    if (size > headSize + 9 * pieceLength)
      for (let i = 1; i <= 8; i++) {
        const start = headSize + Math.floor(((size - headSize - pieceLength) * i) / 8 / 2) * 2;
        const text = decode(await readAt(file, start, pieceLength));
        spread.push(text.slice(text.indexOf('\n') + 1));
      }
    return { head, spread };
  } finally {
    await file.close();
  }
}
