import { rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { StartedServer } from './server';
import { median, rounded } from './statistics';

interface Asked {
  name: string;
  keys: string[];
  /** The same keys in SQL. */
  sql: string;
  keep: object[];
  where: string;
}

const questions: readonly Asked[] = [
  { name: 'by route', keys: ['route'], sql: 'route', keep: [], where: 'true' },
  {
    name: 'by month, route and fare',
    keys: ['date.month', 'route', 'fare_type'],
    sql: "date_trunc('month', date::timestamp)::date, route, fare_type",
    keep: [],
    where: 'true',
  },
  {
    name: 'by day, route and fare',
    keys: ['date.day', 'route', 'fare_type'],
    sql: 'date, route, fare_type',
    keep: [],
    where: 'true',
  },
  {
    name: 'a year by day',
    keys: ['date.day'],
    sql: 'date',
    keep: [{ field: 'date', ranges: [['2022-01-01', '2022-12-31']] }],
    where: "date BETWEEN '2022-01-01' AND '2022-12-31'",
  },
];
const times = 7;

const timed = async (work: (turn: number) => Promise<unknown>): Promise<number> => {
  const found: number[] = [];
  for (let turn = 0; turn < times; turn++) {
    const started = performance.now();
    await work(turn);
    found.push(performance.now() - started);
  }
  return median(found);
};

/** Waits for the column copy of a dataset. */
export async function copyMade(server: StartedServer, dataset: string): Promise<void> {
  for (;;) {
    const { copy } = await (await fetch(`${server.url}/api/datasets/${dataset}`)).json();
    if (copy.state === 'ready') return;
    if (copy.state === 'failed' || copy.state === 'none') throw new Error(`The copy is ${copy.state}.`);
    await new Promise((done) => setTimeout(done, 50));
  }
}

/** Has a copy made anew: it is deleted, which the next question notices; seconds. */
async function copyMadeAnew(server: StartedServer, dataset: string, file: string): Promise<number> {
  await copyMade(server, dataset);
  rmSync(file);
  const started = performance.now();
  await (await fetch(`${server.url}/api/datasets/${dataset}/rows?limit=1`)).arrayBuffer();
  await new Promise((done) => setTimeout(done, 100));
  await copyMade(server, dataset);
  return (performance.now() - started) / 1000;
}

/**
 * Questions over a large dataset, through the application with a column copy and in PostgreSQL alone. No answer is
 * taken from what is kept: each question says once more, in other words, that all passengers count.
 */
export async function sourcesBench(server: StartedServer, folder: string, dataset: string) {
  const table = await server.tableOf(dataset);
  const file = join(folder, 'copies', `${table.replace('data.', '')}.duckdb`);
  const copySeconds = await copyMadeAnew(server, dataset, file);
  const { version } = await (await fetch(`${server.url}/api/datasets/${dataset}`)).json();
  const asked = [];
  for (const { name, keys, sql, keep, where } of questions) {
    const copyMs = await timed(async (turn) => {
      const all = { field: 'passengers', ranges: [[-1 - turn, 1e9]] };
      const query = new URLSearchParams([['version', String(version)]]);
      for (const key of keys) query.append('key', key);
      query.append('aggregate', 'sum.passengers');
      for (const each of [...keep, all]) query.append('keep', JSON.stringify(each));
      const response = await fetch(`${server.url}/api/datasets/${dataset}/cube?${query}`);
      if (!response.ok) throw new Error(await response.text());
      await response.arrayBuffer();
    });
    const groups = keys.map((_, i) => i + 1).join(', ');
    const postgresMs = await timed((turn) =>
      server.query(
        `SELECT ${sql}, sum(passengers)::float8 FROM ${table} WHERE ${where} AND passengers BETWEEN ${-1 - turn} AND 1000000000 GROUP BY ${groups}`,
      ),
    );
    asked.push({
      name,
      copyMs: rounded(copyMs, 1),
      postgresMs: rounded(postgresMs),
      times: rounded(postgresMs / copyMs, 1),
    });
  }
  const { rows } = await server.query('SELECT pg_total_relation_size($1::regclass)::float8 AS bytes', [
    table,
  ]);
  const copyBytes = statSync(file).size;
  return {
    copySeconds: rounded(copySeconds),
    copyShareOfDisk: rounded(copyBytes / (rows[0]!.bytes as number)),
    asked,
  };
}
