import { randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { FieldType } from '@sorvik/core/data/values';
import {
  Field as ArrowField,
  Bool,
  type DataType,
  DateDay,
  Float64,
  Int64,
  type RecordBatch,
  RecordBatchStreamWriter,
  Schema,
  Table,
  TimestampMicrosecond,
  Utf8,
  vectorFromArray,
} from 'apache-arrow';
import Papa from 'papaparse';
import { type Database, quoted } from '../db/client';
import { Engine, literal } from '../sources/copies/engine';
import { columnTypes } from '../sources/copies/make-copy';
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

const dayMs = 86_400_000;

/** How a cell of the CSV text becomes a value of Arrow. */
const arrowTypes: Record<FieldType, { type: () => DataType; value(cell: string): unknown }> = {
  integer: { type: () => new Int64(), value: (cell) => BigInt(cell) },
  decimal: { type: () => new Float64(), value: Number },
  text: { type: () => new Utf8(), value: (cell) => cell },
  boolean: { type: () => new Bool(), value: (cell) => cell === 'true' },
  date: {
    type: () => new DateDay(),
    value: (cell) => new Date(Math.floor(Date.parse(cell) / dayMs) * dayMs),
  },
  datetime: { type: () => new TimestampMicrosecond(), value: (cell) => Date.parse(`${cell}Z`) },
};

/** What ends a stream. */
const endBytes = 8;
/** Rows that are sent at a time. */
const batchRows = 5000;

/** The rows of a dataset as a stream of Arrow IPC. Throws as `rowsAsCsv` does. */
export async function rowsAsArrow(
  database: Database,
  dataset: StoredDataset,
  fields: readonly Field[],
): Promise<Readable> {
  const csv = await rowsAsCsv(database, dataset, fields);
  const schema = new Schema(
    fields.map(({ name, type }) => new ArrowField(name, arrowTypes[type].type(), true)),
  );
  const tableOf = (rows: readonly string[][]) =>
    new Table(
      schema,
      Object.fromEntries(
        fields.map(({ name, type }, c) => {
          const { type: made, value } = arrowTypes[type];
          // What is empty has no value: texts that are empty are not kept.
          return [
            name,
            vectorFromArray(
              rows.map((row) => (row[c] === '' ? null : value(row[c]!))),
              made(),
            ),
          ];
        }),
      ),
    );
  async function* tables() {
    let waiting: string[][] = [];
    let isHead = true;
    for await (const row of csv.pipe(Papa.parse(Papa.NODE_STREAM_INPUT, { header: false })) as AsyncIterable<
      string[]
    >) {
      if (!isHead) waiting.push(row);
      isHead = false;
      if (waiting.length < batchRows) continue;
      yield tableOf(waiting);
      waiting = [];
    }
    if (waiting.length) yield tableOf(waiting);
  }
  // A stream is its schema, its batches and its end. Each batch is written by itself, when whoever fetches takes more.
  const framed = (batches: readonly RecordBatch[]): Uint8Array => {
    const writer = new RecordBatchStreamWriter();
    writer.reset(undefined, schema);
    for (const batch of batches) writer.write(batch);
    return writer.finish().toUint8Array(true);
  };
  const empty = framed([]);
  const head = empty.subarray(0, empty.length - endBytes);
  async function* bytes() {
    yield head;
    for await (const { batches } of tables()) yield framed(batches).subarray(head.length, -endBytes);
    yield empty.subarray(-endBytes);
  }
  return Readable.from(bytes());
}
