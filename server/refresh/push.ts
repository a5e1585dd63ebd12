import { once } from 'node:events';
import { drizzle } from 'drizzle-orm/node-postgres';
import type pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { besideReaders } from '../datasets/locked';
import { type Field, fieldsOf, type StoredDataset } from '../datasets/store';
import { atOnce, type Database, type Db, quoted, tableOf } from '../db/client';
import * as schema from '../db/schema';
import { HttpProblem } from '../http/problem';
import { copyText, sqlTypes } from '../imports/load';
import {
  dropTables,
  type Grown,
  indexKey,
  indexNewPlaces,
  makeRowTable,
} from '../sources/postgres/row-table';
import { placeColumn } from '../sources/row-columns';
import { tell } from '../tell';
import { computeAll, computedOf, takeOut } from './apply';
import type { IncomingRows } from './incoming-rows';
import { keepChange, pushSeq } from './versions';

export interface Pushed {
  rows: number;
  replaced: number;
  version: number;
}

interface Push {
  /** Reads what was sent, for the fields as they are then. */
  read(fields: readonly Field[]): IncomingRows;
  /** The key of the field by which rows are replaced. */
  by: string | undefined;
  /** What the sender calls this push: one that comes again is not done again. */
  once: string | undefined;
  /** The name of the token. */
  from: string;
}

/** Sends rows into a table of the database. */
async function copyInto(
  client: pg.ClientBase,
  table: string,
  { fields, rows }: IncomingRows,
  places: number,
): Promise<void> {
  const columns = [...fields.map(({ key }) => quoted(key)), placeColumn].join(', ');
  const copy = client.query(copyFrom(`COPY ${table} (${columns}) FROM STDIN`));
  const done = once(copy, 'finish');
  copy.end(rows.map((row, i) => `${row.map(copyText).join('\t')}\t${places + i}\n`).join(''));
  await done;
}

/** Rows go through a table of their own where fields are computed of them: as they are for a file. */
async function copyComputed(
  client: pg.ClientBase,
  dataset: StoredDataset,
  all: readonly Field[],
  incoming: IncomingRows,
): Promise<void> {
  const { rows } = await client.query(
    `SELECT nextval(pg_get_serial_sequence('sorvik.datasets', 'number')) AS number`,
  );
  const number = Number(rows[0].number);
  const computed = computedOf(all);
  const plain = all.filter((field) => !computed.includes(field));
  await makeRowTable(
    client,
    tableOf(number),
    plain.map(({ key, type }) => `${quoted(key)} ${sqlTypes[type]}`),
  );
  await copyInto(client, tableOf(number), incoming, dataset.places);
  await computeAll(client, number, all, computed);
  const columns = [...all.map(({ key }) => quoted(key)), placeColumn].join(', ');
  await client.query(
    `INSERT INTO ${tableOf(dataset.number)} (${columns}) SELECT ${columns} FROM ${tableOf(number)}`,
  );
  await dropTables(client, number);
}

/** Adds rows to a dataset, at once or not at all. */
export async function pushRows(
  database: Database,
  id: string,
  push: Push,
  versionsKept: number,
): Promise<Pushed> {
  let grown: Grown | null = null;
  const pushed = await atOnce(database.db, async (tx) => {
    const client = tx.$client as unknown as pg.PoolClient;
    const db: Db = drizzle(client, { schema });
    const dataset = await besideReaders(client, id);
    if (push.once !== undefined) {
      const { rows } = await client.query(
        'SELECT answer FROM sorvik.push_keys WHERE dataset = $1 AND key = $2',
        [id, push.once],
      );
      if (rows[0]) return rows[0].answer as Pushed;
    }
    const fields = await fieldsOf(db, id);
    const incoming = push.read(fields);
    const seq = await pushSeq(client, id);
    let replaced = 0;
    if (push.by !== undefined) {
      const field = fields.find(({ key }) => key === push.by)!;
      const column = incoming.fields.findIndex(({ key }) => key === push.by);
      const values = incoming.rows.map((row) => row[column] ?? null);
      const without = column < 0 ? 0 : values.indexOf(null);
      if (without >= 0)
        throw new HttpProblem(422, 'invalid-input', tell('push.noKey', { row: without + 1, field: push.by }));
      await indexKey(client, dataset.number, push.by);
      replaced = await takeOut(
        client,
        dataset,
        { keys: fields.map(({ key }) => key), seq },
        `kept.${quoted(push.by)} = ANY ($1::${sqlTypes[field.type]}[])`,
        [[...new Set(values)]],
      );
    }
    if (computedOf(fields).length) await copyComputed(client, dataset, fields, incoming);
    else await copyInto(client, tableOf(dataset.number), incoming, dataset.places);
    const rows = incoming.rows.length;
    grown = { number: dataset.number, before: dataset.places, after: dataset.places + rows };
    await keepChange(
      client,
      dataset,
      seq,
      {
        kind: 'push',
        reshaped: false,
        number: dataset.number,
        places: dataset.places + rows,
        rows: dataset.rows + rows - replaced,
        rowsIn: rows,
        rowsOut: replaced,
        rejected: dataset.rejected,
        source: { ...dataset.source, file: push.from },
      },
      versionsKept,
    );
    const answer: Pushed = { rows, replaced, version: dataset.version + 1 };
    if (push.once !== undefined)
      await client.query('INSERT INTO sorvik.push_keys (dataset, key, answer) VALUES ($1, $2, $3)', [
        id,
        push.once,
        answer,
      ]);
    return answer;
  });
  const added = grown as Grown | null;
  if (added) void indexNewPlaces(database.pool, added);
  return pushed;
}
