import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import Papa from 'papaparse';
import { tell } from '../../tell';
import { separatorOf } from '../inspect';
import { sampleText, TextWatch } from '../text-file';
import { CsvWriter } from './csv-writer';
import { type SourceFile, type TableFormat, UnreadableFile } from './format-kind';

/** How a text is written: looked at as a whole, since the last letter may be the one that says. */
async function encodingOf({ path }: SourceFile) {
  const watch = new TextWatch();
  for await (const chunk of createReadStream(path) as AsyncIterable<Buffer>) watch.see(chunk);
  return watch.encoding;
}

/** A file's text piece by piece, without the mark at its beginning. */
function textOfFile(path: string, encoding: string): Readable {
  async function* pieces() {
    const decoder = new TextDecoder(encoding);
    for await (const chunk of createReadStream(path) as AsyncIterable<Buffer>)
      yield decoder.decode(chunk, { stream: true });
    yield decoder.decode();
  }
  return Readable.from(pieces());
}

/** Text with separators, where it comes in a packed file: written anew, with commas and as UTF-8. */
export const csvText: TableFormat = {
  name: 'CSV',
  is(head) {
    const watch = new TextWatch();
    watch.see(head);
    return !watch.binary;
  },
  asks: async () => [],
  async read(file, out) {
    const encoding = await encodingOf(file);
    const { head } = await sampleText(file.path, file.bytes, encoding);
    const separator = separatorOf(head);
    const writer = new CsvWriter(out);
    const decoded = textOfFile(file.path, encoding);
    const rows = decoded.pipe(Papa.parse(Papa.NODE_STREAM_INPUT, { header: false, delimiter: separator }));
    let names: string[] | null = null;
    for await (const row of rows as AsyncIterable<string[]>) {
      if (row.length === 1 && row[0]!.trim() === '') continue;
      names ??= row;
      await writer.write(row);
    }
    await writer.end();
    if (!names) throw new UnreadableFile(tell('inspect.theFileIsEmpty'));
    return { columns: names.map((name) => ({ name, is: null })), notes: [], unread: [] };
  },
};
