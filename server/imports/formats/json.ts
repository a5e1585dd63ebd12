import { once } from 'node:events';
import { createReadStream, createWriteStream } from 'node:fs';
import { createInterface } from 'node:readline';
import { tell } from '../../tell';
import { listQuestions, literal, storeToCsv } from './column-store';
import { type SourceFile, type TableFormat, UnreadableFile, type UnreadRow } from './format-kind';

/** Values may lie in values so deep: what is deeper is no table. */
const deepest = 64;
/** Lines that could not be read are kept, up to so many. */
const mostUnread = 10_000;
/** No record has so many bytes. */
const longestLine = 16 * 1024 * 1024;

const opens = new Set([0x7b, 0x5b]);
const closes = new Set([0x7d, 0x5d]);

/** Throws where values lie deeper than a table has them: whatever reads it goes down as deep. */
async function refuseTooDeep(path: string): Promise<void> {
  let depth = 0;
  let inText = false;
  let escaped = false;
  for await (const chunk of createReadStream(path, { highWaterMark: 1024 * 1024 }) as AsyncIterable<Buffer>)
    for (const byte of chunk) {
      if (inText) {
        if (escaped) escaped = false;
        else if (byte === 0x5c) escaped = true;
        else if (byte === 0x22) inText = false;
      } else if (byte === 0x22) inText = true;
      else if (opens.has(byte)) {
        if (++depth > deepest) throw new UnreadableFile(tell('formats.tooDeep', { deepest }));
      } else if (closes.has(byte)) depth--;
    }
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

/** Writes the lines that are records to a file of their own; gives those that are not. */
async function goodLines(path: string, to: string): Promise<UnreadRow[]> {
  const unread: UnreadRow[] = [];
  const stream = createWriteStream(to);
  let line = 0;
  let good = 0;
  for await (const text of createInterface({
    input: createReadStream(path),
    crlfDelay: Number.POSITIVE_INFINITY,
  })) {
    line++;
    if (!text.trim()) continue;
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
    if (!stream.write(`${text}\n`)) await once(stream, 'drain');
  }
  stream.end();
  await once(stream, 'finish');
  if (!good) throw new UnreadableFile(tell('formats.noRecords'));
  return unread;
}

/** How the column store reads a file: by looking at all of it, or with columns of known types. */
const reader = (path: string, lines: boolean, columns?: string) =>
  `read_json(${[
    literal(path),
    `format = '${lines ? 'newline_delimited' : 'auto'}'`,
    `maximum_object_size = ${8 * longestLine}`,
    ...(columns ? [`columns = ${columns}`] : ['sample_size = -1', 'convert_strings_to_integers = false']),
  ].join(', ')})`;

/** What the column store reads of a file, and the lines that it does not see. */
interface Source {
  read(columns?: string): string;
  unread: UnreadRow[];
}

async function looked(file: SourceFile): Promise<Source> {
  await refuseTooDeep(file.path);
  if (!(await isLines(file))) return { read: (columns) => reader(file.path, false, columns), unread: [] };
  const good = `${file.path}.lines`;
  const unread = await goodLines(file.path, good);
  return { read: (columns) => reader(good, true, columns), unread };
}

/** A file is gone through once, for what is asked and for its rows. */
const sources = new Map<string, Promise<Source>>();

function source(file: SourceFile): Promise<Source> {
  const known = sources.get(file.path) ?? looked(file);
  sources.set(file.path, known);
  return known;
}

const name = 'JSON';

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
