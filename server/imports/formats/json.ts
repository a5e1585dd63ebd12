import { once } from 'node:events';
import { createReadStream, createWriteStream } from 'node:fs';
import { createInterface } from 'node:readline';
import { tell } from '../../tell';
import { columnsOf, listQuestions, literal, storeToCsv } from './column-store';
import { type SourceFile, type TableFormat, UnreadableFile, type UnreadRow } from './format-kind';

/** Values may lie in values so deep: what is deeper is no table. */
const deepest = 64;
/** Lines that could not be read are kept, up to so many. */
const mostUnread = 10_000;
/** No record has so many bytes. */
const longestLine = 16 * 1024 * 1024;

/** Lines are written so many characters at a time. */
const writtenAtATime = 256 * 1024;
/** The column store's room for a record is no smaller, bytes. */
const fewestBytes = 1024 * 1024;
const name = 'JSON';

const opens = new Set([0x7b, 0x5b]);
const closes = new Set([0x7d, 0x5d]);

/** Follows how deep values lie in values. */
class Depth {
  private depth = 0;
  private inText = false;
  private escaped = false;

  /** Throws where they lie deeper than a table has them: whatever reads them goes down as deep. */
  see(bytes: Uint8Array): void {
    for (const byte of bytes) {
      if (this.inText) {
        if (this.escaped) this.escaped = false;
        else if (byte === 0x5c) this.escaped = true;
        else if (byte === 0x22) this.inText = false;
      } else if (byte === 0x22) this.inText = true;
      else if (opens.has(byte)) {
        if (++this.depth > deepest) throw new UnreadableFile(tell('formats.tooDeep', { deepest }));
      } else if (closes.has(byte)) this.depth--;
    }
  }
}

async function refuseTooDeep(path: string): Promise<void> {
  const depth = new Depth();
  for await (const chunk of createReadStream(path, { highWaterMark: 1024 * 1024 }) as AsyncIterable<Buffer>)
    depth.see(chunk);
}

/** Whether a text could lie too deep: it has as many brackets. */
function mayBeTooDeep(text: string): boolean {
  let count = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if ((code === 0x7b || code === 0x5b) && ++count > deepest) return true;
  }
  return false;
}

const firstLine = async (path: string): Promise<string> => {
  for await (const line of createInterface({
    input: createReadStream(path),
    crlfDelay: Number.POSITIVE_INFINITY,
  }))
    if (line.trim()) return line.length > longestLine ? '' : line;
  return '';
};

/** Whether each line is a record of its own: the first one is. */
async function isLines({ path }: SourceFile): Promise<boolean> {
  const line = await firstLine(path);
  if (!line.trimStart().startsWith('{')) return false;
  try {
    JSON.parse(line);
    return true;
  } catch {
    return false;
  }
}

/** Writes the lines that are records to a file of their own; gives those that are not, and the length of the longest. */
async function goodLines(path: string, to: string): Promise<{ unread: UnreadRow[]; longest: number }> {
  const unread: UnreadRow[] = [];
  let longest = 0;
  let waiting = '';
  const stream = createWriteStream(to);
  let line = 0;
  let good = 0;
  for await (const text of createInterface({
    input: createReadStream(path),
    crlfDelay: Number.POSITIVE_INFINITY,
  })) {
    line++;
    if (!text.trim()) continue;
    if (mayBeTooDeep(text)) new Depth().see(Buffer.from(text));
    let reason = '';
    try {
      const value: unknown = text.length > longestLine ? null : JSON.parse(text);
      if (typeof value !== 'object' || value === null || Array.isArray(value))
        reason = tell('formats.noRecord');
    } catch {
      reason = tell('formats.lineIsNotJson');
    }
    if (reason) {
      if (unread.length < mostUnread) unread.push({ line, reason, text: text.slice(0, 1000) });
      continue;
    }
    good++;
    longest = Math.max(longest, text.length);
    waiting += `${text}\n`;
    if (waiting.length < writtenAtATime) continue;
    if (!stream.write(waiting)) await once(stream, 'drain');
    waiting = '';
  }
  stream.end(waiting);
  await once(stream, 'finish');
  if (!good) throw new UnreadableFile(tell('formats.noRecords'));
  return { unread, longest };
}

/** A file that the column store can read: one record a line or a list of them, none larger than so many bytes. */
interface Readable {
  path: string;
  lines: boolean;
  largest: number;
}

/** How the column store reads a file: by looking at all of it, or with columns of known types. */
const reader = ({ path, lines, largest }: Readable, columns?: string) =>
  `read_json(${[
    literal(path),
    `format = '${lines ? 'newline_delimited' : 'auto'}'`,
    // It keeps room for several as large.
    `maximum_object_size = ${largest}`,
    ...(columns ? [`columns = ${columns}`] : ['sample_size = -1', 'convert_strings_to_integers = false']),
  ].join(', ')})`;

/** What the column store reads of a file, and the lines that it does not see. */
interface Source {
  read(columns?: string): string;
  unread: UnreadRow[];
}

async function looked(file: SourceFile): Promise<Source> {
  let of: Readable;
  let unread: UnreadRow[] = [];
  if (await isLines(file)) {
    const path = `${file.path}.lines`;
    const good = await goodLines(file.path, path);
    unread = good.unread;
    // A character has up to four bytes.
    of = { path, lines: true, largest: Math.max(fewestBytes, 4 * good.longest) };
  } else {
    await refuseTooDeep(file.path);
    of = { path: file.path, lines: false, largest: 2 * longestLine };
  }
  const columns = await columnsOf(file.path, reader(of), name);
  return { read: (as = columns) => reader(of, as), unread };
}

/** A file is gone through once, for what is asked and for its rows. */
const sources = new Map<string, Promise<Source>>();

function source(file: SourceFile): Promise<Source> {
  const known = sources.get(file.path) ?? looked(file);
  sources.set(file.path, known);
  return known;
}

/** JSON: a list of records, or one record a line. */
export const json: TableFormat = {
  name,
  is: (head) => /^\uFEFF?\s*[{[]/.test(head.toString('utf8')),
  async asks(file) {
    const { read } = await source(file);
    return listQuestions(file.path, read(), name);
  },
  async read(file, out, answers) {
    const { read, unread } = await source(file);
    const how = { format: name, texts: 'text-or-date' as const, digits: read };
    const table = await storeToCsv(file.path, read(), out, how, answers);
    return { ...table, unread };
  },
};
