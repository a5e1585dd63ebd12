// Runs in a process of its own: a file that is broken, or made to break whatever reads it, takes nothing else with it.
import { closeSync, mkdirSync, openSync, readSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import type { ImportQuestion } from '@sorvik/core/board/api-types';
import { tell } from '../../tell';
import { arrow } from './arrow';
import { csvText } from './csv-text';
import {
  type Answers,
  type ReadTable,
  type SourceFile,
  type TableFormat,
  UnreadableFile,
} from './format-kind';
import { json } from './json';
import { gzip, zip } from './packed';
import { parquet } from './parquet';
import { joined, severalQuestion } from './several';
import { spreadsheet } from './spreadsheet';

/** Those that are known by their first bytes first; text is what is left. */
const formats: TableFormat[] = [spreadsheet, parquet, arrow, json, csvText];
const packs = [gzip, zip];
/** Packed files lie in packed files so deep. */
const deepest = 3;

const headBytes = 4096;

function headOf(path: string): Buffer {
  const file = openSync(path, 'r');
  try {
    const head = Buffer.alloc(headBytes);
    return head.subarray(0, readSync(file, head, 0, headBytes, 0));
  } finally {
    closeSync(file);
  }
}

/** The files that a file holds, down to those that are not packed. */
async function filesIn(
  file: SourceFile,
  folder: string,
  depth = 0,
): Promise<{ file: SourceFile; format: TableFormat }[]> {
  const head = headOf(file.path);
  // A spreadsheet is a packed file too.
  for (const format of formats.slice(0, -1)) if (await format.is(head, file)) return [{ file, format }];
  for (const pack of packs)
    if (await pack.is(head, file)) {
      if (depth === deepest) throw new UnreadableFile(tell('formats.packedTooDeep'));
      const inside = join(folder, `${depth}-${Math.random().toString(36).slice(2)}`);
      mkdirSync(inside);
      const found = [];
      for (const each of await pack.unpack(file, inside))
        found.push(...(await filesIn(each, inside, depth + 1)));
      return found;
    }
  if (!(await csvText.is(head, file))) throw new UnreadableFile(tell('formats.unknown', { name: file.name }));
  return [{ file, format: csvText }];
}

export interface Order {
  files: readonly SourceFile[];
  /** Where the CSV text goes. */
  out: string;
  /** What was answered; null where nothing has been asked yet. */
  answers: Answers | null;
}

export type Read =
  | { questions: ImportQuestion[] }
  | { table: ReadTable; format: string }
  | { problem: string };

/** Reads files into one CSV text at `out`, or says what has to be answered first. */
async function read({ files: sent, out, answers }: Order): Promise<Read> {
  const folder = `${out}.parts`;
  mkdirSync(folder, { recursive: true });
  try {
    const files = [];
    for (const file of sent) files.push(...(await filesIn(file, folder)));
    const [first] = files;
    if (answers === null) {
      const asked = files.length > 1 ? [severalQuestion(files.map((each) => each.file))] : [];
      // Of several files the first stands for all.
      const questions = [...asked, ...(await first!.format.asks(first!.file))];
      if (questions.length) return { questions };
    }
    const given = answers ?? {};
    if (files.length === 1) {
      const table = await first!.format.read(first!.file, out, given);
      return { table, format: first!.format.name };
    }
    const parts = [];
    for (const [i, each] of files.entries()) {
      const path = join(folder, `part-${i}.csv`);
      parts.push({ file: each.file, path, table: await each.format.read(each.file, path, given) });
    }
    return { table: await joined(parts, out, given['#files'] === 'named'), format: first!.format.name };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

process.once('message', (order: Order) => {
  read(order)
    .catch((error: Error): Read => {
      if (error instanceof UnreadableFile) return { problem: error.message };
      throw error;
    })
    .then((answer) => process.send!(answer, () => process.exit(0)))
    .catch((error: Error) => {
      process.stderr.write(`${error.stack}\n`);
      process.exit(1);
    });
});
// Whoever asked has gone.
process.once('disconnect', () => process.exit(1));
