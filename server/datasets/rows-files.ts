import { randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import Papa from 'papaparse';
import { type Database, quoted } from '../db/client';
import { Engine, literal } from '../sources/copies/engine';
import { columnTypes } from '../sources/copies/make-copy';
import { arrowStream } from './arrow-stream';
import { rowsAsCsv } from './rows-csv';
import type { Field, StoredDataset } from './store';

/**
 * The rows of a dataset as a Parquet file. It is written next to the files that are imported, and removed once it has been
 * read. Throws as `rowsAsCsv` does.
 */
export async function rowsAsParquet(
  database: Database,
  dataset: StoredDataset,
  fields: readonly Field[],
  folder: string,
): Promise<Readable> {
  const stem = join(folder, randomUUID());
  const [csv, parquet] = [`${stem}.csv`, `${stem}.parquet`];
  try {
    await database.room.ensureNow();
    await pipeline(await rowsAsCsv(database, dataset, fields), createWriteStream(csv));
    const engine = await Engine.open(folder, { threads: 2, memory: 512 * 1024 ** 2 });
    try {
      const columns = fields.map(({ name, type }) => `${literal(name)}: ${literal(columnTypes[type])}`);
      await engine.on(async (connection) => {
        await connection.run('SET preserve_insertion_order = true');
        await connection.run(
          `COPY (SELECT ${fields.map(({ name }) => quoted(name)).join(', ')} FROM read_csv(${literal(csv)}, columns = {${columns.join(', ')}}, header = true, auto_detect = false, delim = ',', quote = '"', escape = '"', nullstr = '', allow_quoted_nulls = false)) TO ${literal(parquet)} (FORMAT parquet, COMPRESSION zstd)`,
        );
      });
    } finally {
      engine.close();
    }
    const stream = createReadStream(parquet);
    stream.once('close', () => void rm(parquet, { force: true }).catch(() => {}));
    return stream;
  } catch (error) {
    await rm(parquet, { force: true });
    throw error;
  } finally {
    await rm(csv, { force: true });
  }
}

/** Rows that are sent at a time. */
const batchRows = 5000;

/** The rows of a dataset as a stream of Arrow IPC. Throws as `rowsAsCsv` does. */
export async function rowsAsArrow(
  database: Database,
  dataset: StoredDataset,
  fields: readonly Field[],
): Promise<Readable> {
  const csv = await rowsAsCsv(database, dataset, fields);
  async function* batches() {
    let waiting: string[][] = [];
    let isHead = true;
    for await (const row of csv.pipe(Papa.parse(Papa.NODE_STREAM_INPUT, { header: false })) as AsyncIterable<
      string[]
    >) {
      if (!isHead) waiting.push(row);
      isHead = false;
      if (waiting.length < batchRows) continue;
      yield waiting;
      waiting = [];
    }
    if (waiting.length) yield waiting;
  }
  return arrowStream(fields, batches());
}
