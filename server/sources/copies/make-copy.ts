import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import type { FieldType } from '@sorvik/core/data/values';
import { to as copyTo } from 'pg-copy-streams';
import { reading } from '../../datasets/locked';
import type { Field } from '../../datasets/store';
import { type Database, quoted, tableOf } from '../../db/client';
import type { LineFiles } from '../../imports/sent-lines';
import { goneColumn, hasPast, pastOf } from '../postgres/row-table';
import { placeColumn } from '../row-columns';
import { OtherVersion } from '../source';
import { type Engine, literal } from './engine';

/** Rows that go over at a time: what lies on the disk in between stays small, and whoever changes rows waits for one such step. */
const rowsAtOnce = 500_000;

/** What the types of fields are in the column store. */
export const columnTypes: Record<FieldType, string> = {
  integer: 'BIGINT',
  decimal: 'DOUBLE',
  text: 'VARCHAR',
  boolean: 'BOOLEAN',
  date: 'DATE',
  datetime: 'TIMESTAMP',
};

export interface Copied {
  id: string;
  version: number;
  rows: number;
  places: number;
  /** The version in which it became what it is but for its rows. */
  shaped: number;
  /** The last version of its rows that all of are over, and whose places end there. */
  seq: number;
  fields: readonly Field[];
  /** What was sent to the database for it, where that is kept and can be read as it is; it is used up. */
  lines: LineFiles[] | null;
}

/** The columns of a copy: what they are, their names, and how the column store is told of them when it reads a file. */
function columnsOf(fields: readonly Field[]) {
  const columns = fields.map(({ key, type }) => [key, columnTypes[type]] as const);
  const types = columns.map(([key, type]) => `${literal(key)}: ${literal(type)}`);
  return {
    columns,
    names: [...columns.map(([key]) => quoted(key)), placeColumn],
    types: [...types, `'#place': 'BIGINT'`].join(', '),
  };
}

/** How the column store reads what PostgreSQL writes as CSV, and what is sent to it. */
const csv = "delim = ',', quote = '\"', escape = '\"', nullstr = '', allow_quoted_nulls = false";
const sent = "delim = '\t', quote = '', escape = '', nullstr = '\\N'";

/**
 * Copies the rows of a dataset into a file of the column store. `part` is the file, which is whole once this is done;
 * `onProgress` hears how many rows are over. Throws `OtherVersion` where the dataset was changed meanwhile.
 */
export async function makeCopy(
  engine: Engine,
  database: Database,
  dataset: Copied,
  part: string,
  onProgress: (rows: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const { columns, names, types } = columnsOf(dataset.fields);
  const csvOf = (step: number) => `${part}.${step % 2}.csv`;

  /** Writes some of the rows into a file; null where there are no more. */
  const write = async (step: number): Promise<{ path: string; rows: number; how: string } | null> => {
    if (dataset.lines) {
      const file = dataset.lines[step];
      return file ? { ...file, how: sent } : null;
    }
    const from = step * rowsAtOnce;
    if (from >= dataset.places) return null;
    await database.room.ensureNow();
    await reading(
      database,
      dataset.id,
      async ({ client, dataset: now }) => {
        if (now.shaped !== dataset.shaped) throw new OtherVersion(now.version);
        const rows = client.query(
          copyTo(
            `COPY (SELECT ${names.join(', ')} FROM ${tableOf(now.number)} WHERE ${placeColumn} >= ${from} AND ${placeColumn} < ${Math.min(from + rowsAtOnce, dataset.places)}) TO STDOUT WITH (FORMAT csv)`,
          ),
        );
        await pipeline(rows, createWriteStream(csvOf(step)));
      },
      { slow: true, signal },
    );
    return { path: csvOf(step), rows: Math.min(rowsAtOnce, dataset.places - from), how: csv };
  };

  try {
    await engine.on(async (connection) => {
      await connection.run(`ATTACH ${literal(part)} AS made`);
      try {
        await connection.run(
          `CREATE TABLE made.rows (${[...columns.map(([key, type]) => `${quoted(key)} ${type}`), `${placeColumn} BIGINT`].join(', ')})`,
        );
        // While one file is read, the next is written.
        let next = write(0);
        let done = 0;
        for (let step = 0, file = await next; file; step++, file = await next) {
          next = write(step + 1);
          // Whoever waits for it hears of its failure; until then nobody does.
          next.catch(() => {});
          await connection.run(
            `INSERT INTO made.rows SELECT * FROM read_csv(${literal(file.path)}, columns = {${types}}, header = false, auto_detect = false, ${file.how})`,
          );
          if (dataset.lines) await rm(file.path, { force: true });
          done += file.rows;
          onProgress(done);
        }
        await connection.run(
          'CREATE TABLE made.stamp (version BIGINT, shaped BIGINT, seq INTEGER, places BIGINT, rows BIGINT)',
        );
        const { version, shaped, seq, places } = dataset;
        await connection.run(
          `INSERT INTO made.stamp SELECT ${[version, shaped, seq, places].join(', ')}, count(*) FROM made.rows`,
        );
        await connection.run('CHECKPOINT made');
      } finally {
        await connection.run('DETACH made');
      }
    }, signal);
  } finally {
    await Promise.all([0, 1].map((step) => rm(csvOf(step), { force: true })));
  }
}

/** What a copy is of, as it says itself. */
export interface Stamp {
  version: number;
  shaped: number;
  seq: number;
  places: number;
  rows: number;
}

/**
 * Brings a copy, which can be written to as `alias`, to what its dataset is by now: rows that came are added to it, those
 * that went are taken away. Gives what it is of then. Throws `OtherVersion` where more than rows has changed.
 */
export async function catchUp(
  engine: Engine,
  database: Database,
  { id, fields }: Pick<Copied, 'id' | 'fields'>,
  { alias, stamp, file }: { alias: string; stamp: Stamp; file: string },
): Promise<Stamp> {
  const { names, types } = columnsOf(fields);
  const path = `${file}.more.csv`;
  try {
    const { now, seq, gone } = await reading(
      database,
      id,
      async ({ client, dataset: now }) => {
        if (now.shaped !== stamp.shaped) throw new OtherVersion(now.version);
        const more = client.query(
          copyTo(
            `COPY (SELECT ${names.join(', ')} FROM ${tableOf(now.number)} WHERE ${placeColumn} >= ${stamp.places}) TO STDOUT WITH (FORMAT csv)`,
          ),
        );
        await pipeline(more, createWriteStream(path));
        const { rows } = await client.query(
          'SELECT coalesce(max(seq), 0) AS seq FROM sorvik.dataset_versions WHERE dataset = $1',
          [id],
        );
        const gone = (await hasPast(client, now.number))
          ? await client.query(
              `SELECT ${placeColumn} AS place FROM ${pastOf(now.number)} WHERE ${goneColumn} >= ${stamp.seq} AND ${placeColumn} < ${stamp.places}`,
            )
          : { rows: [] };
        return { now, seq: Number(rows[0].seq), gone: gone.rows.map(({ place }) => Number(place)) };
      },
      { slow: true, atOneMoment: true },
    );
    const next = { version: now.version, shaped: now.shaped, seq, places: now.places, rows: now.rows };
    await engine.on(async (connection) => {
      await connection.run('BEGIN');
      if (gone.length)
        await connection.run(`DELETE FROM ${alias}.rows WHERE ${placeColumn} IN (${gone.join(', ')})`);
      await connection.run(
        `INSERT INTO ${alias}.rows SELECT * FROM read_csv(${literal(path)}, columns = {${types}}, header = false, auto_detect = false, ${csv})`,
      );
      const { version, shaped, places, rows } = next;
      await connection.run(
        `UPDATE ${alias}.stamp SET version = ${version}, shaped = ${shaped}, seq = ${seq}, places = ${places}, rows = ${rows}`,
      );
      const counted = await connection.runAndReadAll(`SELECT count(*)::double FROM ${alias}.rows`);
      if (counted.getRows()[0]![0] !== rows)
        throw new Error(`${id}: the copy has not the rows that it should have`);
      await connection.run('COMMIT');
    });
    return next;
  } finally {
    await rm(path, { force: true });
  }
}
