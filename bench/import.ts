import { createReadStream, createWriteStream, readFileSync, statSync } from 'node:fs';
import { request as httpRequest } from 'node:http';
import { basename, join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ollenCsv } from '@sorvik/demo/ollen-csv';
import type { StartedServer } from './server';
import { copyMade } from './sources';
import { rounded } from './statistics';

/** Resident memory of a process, MB. */
const residentMb = (pid: number) =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;

export async function writeCsv(folder: string, rows: number): Promise<string> {
  const file = join(folder, 'Sailings.csv');
  await pipeline(Readable.from(ollenCsv(rows)), createWriteStream(file));
  return file;
}

/** Sends a file the way a browser does, straight from the disk. */
const sendFile = (url: string, file: string) =>
  // biome-ignore lint/suspicious/noExplicitAny: the state of an import, as JSON
  new Promise<any>((done, fail) => {
    const request = httpRequest(
      url,
      { method: 'POST', headers: { 'content-type': 'text/csv' } },
      (response) => {
        let text = '';
        response.setEncoding('utf8');
        response.on('data', (chunk) => {
          text += chunk;
        });
        response.on('end', () => done(JSON.parse(text)));
      },
    );
    request.on('error', fail);
    createReadStream(file, { highWaterMark: 256 * 1024 }).pipe(request);
  });

export async function throughApplication(server: StartedServer, file: string) {
  const idle = residentMb(server.pid);
  let peak = idle;
  const watch = setInterval(() => {
    peak = Math.max(peak, residentMb(server.pid));
  }, 50);
  const started = performance.now();
  let state = await sendFile(`${server.url}/api/imports?name=${basename(file)}`, file);
  while (state.state === 'loading') {
    await new Promise((done) => setTimeout(done, 50));
    state = await (await fetch(`${server.url}/api/imports/${state.id}`)).json();
  }
  const seconds = (performance.now() - started) / 1000;
  clearInterval(watch);
  if (state.state !== 'done') throw new Error(`The import ended as ${state.state}: ${state.message}`);
  return {
    seconds,
    rows: state.rows as number,
    dataset: state.dataset as string,
    memoryOverIdleMb: rounded(peak - idle, 0),
  };
}

/** psql's own \copy of the same file into a final table of the same types, both in one database. */
async function throughPsql(server: StartedServer, file: string, inOneTransaction: boolean) {
  const create =
    'CREATE TABLE data.psql_copy (date date, departure_hour bigint, route text, vessel text, fare_type text, passengers bigint, cars bigint, capacity bigint, revenue float8, fuel float8, delay bigint, route_and_fare text, departure_minute bigint)';
  await server.psql('DROP TABLE IF EXISTS data.psql_copy');
  const copy = `\\copy data.psql_copy FROM '${file}' WITH (FORMAT csv, HEADER true)`;
  if (!inOneTransaction) await server.psql(create);
  const started = performance.now();
  await server.psql(inOneTransaction ? `BEGIN;\n${create};\n${copy}\nCOMMIT;` : copy);
  const seconds = (performance.now() - started) / 1000;
  await server.psql('DROP TABLE data.psql_copy');
  return seconds;
}

/** Rows per second of a large CSV file through the application, beside psql. The best of three runs each. */
export async function importBench(server: StartedServer, file: string) {
  const runs = [];
  const psql = [];
  const psqlNew = [];
  for (let turn = 0; turn < 3; turn++) {
    psql.push(await throughPsql(server, file, false));
    const run = await throughApplication(server, file);
    // Its copy is made in the background: whatever is measured next is to have the machine to itself.
    const began = performance.now();
    await copyMade(server, run.dataset);
    runs.push({ ...run, copySeconds: (performance.now() - began) / 1000 });
    psqlNew.push(await throughPsql(server, file, true));
  }
  const best = runs.reduce((a, b) => (a.seconds <= b.seconds ? a : b));
  return {
    rows: best.rows,
    fileMb: rounded(statSync(file).size / 1e6, 1),
    rowsPerSecond: Math.round(best.rows / best.seconds),
    seconds: rounded(best.seconds),
    copySeconds: rounded(Math.min(...runs.map(({ copySeconds }) => copySeconds))),
    copyShare: rounded(Math.min(...runs.map(({ copySeconds }) => copySeconds)) / best.seconds),
    psqlSeconds: rounded(Math.min(...psql)),
    psqlNewTableSeconds: rounded(Math.min(...psqlNew)),
    ratioToPsql: rounded(Math.min(...psql) / best.seconds),
    ratioToPsqlNewTable: rounded(Math.min(...psqlNew) / best.seconds),
    memoryOverIdleMb: Math.max(...runs.map((run) => run.memoryOverIdleMb)),
    dataset: best.dataset,
  };
}
