import { createReadStream } from 'node:fs';
import type { ImportQuestion } from '@sorvik/core/board/api-types';
import Papa from 'papaparse';
import { tell } from '../../tell';
import { CsvWriter } from './csv-writer';
import { type ReadColumn, type ReadTable, type SourceFile, UnreadableFile } from './format-kind';

/** Rows of a CSV file, one after the other. */
async function* rowsOf(path: string): AsyncGenerator<string[]> {
  const stream = createReadStream(path).pipe(
    Papa.parse(Papa.NODE_STREAM_INPUT, { header: false, skipEmptyLines: true }),
  );
  for await (const row of stream as AsyncIterable<string[]>) yield row;
}

/** Whether the name of each file becomes a field. */
export const severalQuestion = (files: readonly SourceFile[]): ImportQuestion => ({
  column: '#files',
  asks: 'files',
  examples: files.slice(0, 5).map(({ name }) => name),
  options: [
    { answer: 'plain', reads: [] },
    { answer: 'named', reads: [] },
  ],
});

const sameNames = (a: readonly string[], b: readonly string[]) =>
  a.length === b.length && a.every((name) => b.includes(name));

/**
 * Writes the rows of several files of one shape, each read into a CSV text, one after the other; with `named` behind the
 * name of the file that each is from. Throws where one has other columns.
 */
export async function joined(
  files: readonly { file: SourceFile; path: string; table: ReadTable }[],
  out: string,
  named: boolean,
): Promise<ReadTable> {
  const [first] = files;
  const names = first!.table.columns.map(({ name }) => name);
  const writer = new CsvWriter(out);
  const fileColumn = tell('formats.file');
  await writer.write([...(named ? [fileColumn] : []), ...names]);
  for (const { file, path, table } of files) {
    const own = table.columns.map(({ name }) => name);
    if (!sameNames(names, own))
      throw new UnreadableFile(
        tell('formats.otherColumns', { file: file.name, first: first!.file.name, columns: names.join(', ') }),
      );
    const order = names.map((name) => own.indexOf(name));
    let head = true;
    for await (const row of rowsOf(path)) {
      if (!head) await writer.write([...(named ? [file.name] : []), ...order.map((c) => row[c] ?? null)]);
      head = false;
    }
  }
  await writer.end();
  const columns = names.map((name, c): ReadColumn => {
    const kinds = new Set(files.map(({ table }) => table.columns.find((column) => column.name === name)!.is));
    return kinds.size === 1 ? first!.table.columns[c]! : { name, is: null };
  });
  return {
    columns: [...(named ? [{ name: fileColumn, is: 'text' as const }] : []), ...columns],
    notes: [
      tell('formats.ofFiles', { n: files.length }),
      ...new Set(files.flatMap(({ table }) => table.notes)),
    ],
    unread: files.flatMap(({ table }) => table.unread),
  };
}
