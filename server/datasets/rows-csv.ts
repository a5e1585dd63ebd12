import type { Readable } from 'node:stream';
import type { FieldType } from '@sorvik/core/data/values';
import { to as copyTo } from 'pg-copy-streams';
import { type Database, quoted, tableOf } from '../db/client';
import { HttpProblem } from '../http/problem';
import { placeColumn } from '../sources/row-columns';
import { tell } from '../tell';
import { needOwnRows } from './locked';
import type { Field, StoredDataset } from './store';

/** How a column is written so that it is read again as what it is. */
const written = (key: string, type: FieldType) => {
  const column = quoted(key);
  if (type === 'boolean') return `${column}::text`;
  if (type === 'datetime') return `to_char(${column}, 'YYYY-MM-DD"T"HH24:MI:SS.MS')`;
  return column;
};

/** So many are sent at a time: each has a connection for as long as whoever fetches it takes, and saving needs some too. */
const mostAtATime = 4;
let underWay = 0;

/**
 * The rows of a dataset as CSV, in their order, from a connection that is given back when they have been read. Throws 409
 * where they are not here, and 503 while too many are being sent.
 */
export async function rowsAsCsv(
  { pool }: Database,
  dataset: StoredDataset,
  fields: readonly Pick<Field, 'key' | 'type' | 'name'>[],
): Promise<Readable> {
  needOwnRows(dataset);
  if (underWay >= mostAtATime)
    throw new HttpProblem(503, 'too-many-downloads', tell('rowsCsv.tooMany'), {}, { 'retry-after': '10' });
  underWay++;
  let given = false;
  let giveBack: (error?: Error) => void = () => {};
  const release = (error?: Error) => {
    if (given) return;
    given = true;
    underWay--;
    giveBack(error);
  };
  try {
    const client = await pool.connect();
    giveBack = (error) => client.release(error);
    const columns = fields.map(({ key, type, name }) => `${written(key, type)} AS ${quoted(name)}`);
    const copy = client.query(
      copyTo(
        `COPY (SELECT ${columns.join(', ')} FROM ${tableOf(dataset.number)} ORDER BY ${placeColumn}) TO STDOUT WITH (FORMAT csv, HEADER)`,
      ),
    );
    copy.on('end', () => release());
    copy.on('error', (error: Error) => release(error));
    // Whoever fetched it has gone: a connection in the middle of a copy is not used again.
    copy.on('close', () => release(new Error('broken off')));
    return copy;
  } catch (error) {
    release(error as Error);
    throw error;
  }
}
