import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import type { FieldType } from '@sorvik/core/data/values';
import { to as copyTo } from 'pg-copy-streams';
import { reading } from '../../datasets/locked';
import type { Field } from '../../datasets/store';
import { type Database, quoted, tableOf } from '../../db/client';
import type { LineFiles } from '../../imports/sent-lines';
import { placeColumn } from '../row-columns';
import { OtherVersion } from '../source';
import { type Engine, literal } from './engine';

/** Rows that go over at a time: what lies on the disk in between stays small, and whoever changes rows waits for one such step. */
const rowsAtOnce = 500_000;

const columnTypes: Record<FieldType, string> = {
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
  fields: readonly Field[];
  /** What was sent to the database for it, where that is kept and can be read as it is; it is used up. */
  lines: LineFiles[] | null;
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
  const columns = [...dataset.fields.map(({ key, type }) => [key, columnTypes[type]] as const)];
  const names = [...columns.map(([key]) => quoted(key)), placeColumn];
  const types = [
    ...columns.map(([key, type]) => `${literal(key)}: ${literal(type)}`),
    `'#place': 'BIGINT'`,
  ].join(', ');
  const csvOf = (step: number) => `${part}.${step % 2}.csv`;

  /** Writes some of the rows into a file; null where there are no more. */
  const write = async (step: number): Promise<{ path: string; rows: number; how: string } | null> => {
    if (dataset.lines) {
      const file = dataset.lines[step];
      return file ? { ...file, how: sent } : null;
    }
    const from = step * rowsAtOnce;
    if (from >= dataset.rows) return null;
    await database.room.ensureNow();
    await reading(
      database,
      dataset.id,
      async ({ client, dataset: now }) => {
        if (now.version !== dataset.version) throw new OtherVersion(now.version);
        const rows = client.query(
          copyTo(
            `COPY (SELECT ${names.join(', ')} FROM ${tableOf(now.number)} WHERE ${placeColumn} >= ${from} AND ${placeColumn} < ${from + rowsAtOnce}) TO STDOUT WITH (FORMAT csv)`,
          ),
        );
        await pipeline(rows, createWriteStream(csvOf(step)));
      },
      { slow: true, signal },
    );
    return { path: csvOf(step), rows: Math.min(rowsAtOnce, dataset.rows - from), how: csv };
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
        await connection.run('CREATE TABLE made.stamp (version BIGINT, rows BIGINT)');
        await connection.run(
          `INSERT INTO made.stamp SELECT ${dataset.version}, count(*) FROM made.rows HAVING count(*) = ${dataset.rows}`,
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
