// npm run bench: measures the application as it is built, on a data directory of its own.

import { readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { startApplication } from './lib/application.mjs';
import { readArgs, wholeNumber } from './lib/args.mjs';
import { bundle, ensureBuilt } from './lib/build.mjs';
import { command } from './lib/command.mjs';
import { ensureDebianPackages, ensureNodeModules, postgresPrograms } from './lib/packages.mjs';
import { run, say } from './lib/say.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const usage = `npm run bench -- [--rows N] [--json]

  --rows N  rows of the file that is imported and filtered (1000000)
  --json    print the figures as JSON only`;

await run(async () => {
  const args = readArgs({ rows: { type: 'string' }, json: { type: 'boolean' } }, usage);
  const rows = wholeNumber(args.rows, 'rows', 1000, 100_000_000) ?? 1_000_000;
  await ensureDebianPackages(['postgresql', 'chromium']);
  await ensureNodeModules(root);
  await ensureBuilt(root);
  await bundle(root, 'bench/main.ts', 'dist/bench/main.js');
  const stallFile = join(root, '.sorvik', `stall-${process.pid}`);
  const application = await startApplication(root, 'bench', {
    preload: pathToFileURL(join(root, 'bench/stall-watch.mjs')).href,
    env: { SORVIK_STALL_FILE: stallFile },
  });
  const { folder } = application;
  try {
    const { default: pg } = await import('pg');
    const password = readFileSync(join(folder, 'postgres.secret'), 'utf8');
    const databasePort = readFileSync(join(folder, 'postgres/postmaster.pid'), 'utf8').split('\n')[3];
    const client = new pg.Client({
      host: '127.0.0.1',
      port: Number(databasePort),
      user: 'sorvik',
      password,
      database: 'sorvik',
    });
    // When a measurement fails, the database is stopped under this connection; the failure is what is to be seen.
    client.on('error', () => {});
    await client.connect();
    const connect = [
      '-h',
      '127.0.0.1',
      '-p',
      databasePort,
      '-U',
      'sorvik',
      '-d',
      'sorvik',
      '-q',
      '-v',
      'ON_ERROR_STOP=1',
    ];
    const server = {
      url: application.url,
      pages: application.pages,
      pid: application.pid,
      stallFile,
      psql: (script) =>
        command(join(postgresPrograms(), 'psql'), connect, {
          env: { ...process.env, PGPASSWORD: password },
          input: script,
        }),
      query: (text, values) => client.query(text, values),
      tableOf: async (dataset) =>
        `data.d_${(await client.query('SELECT number FROM sorvik.datasets WHERE id = $1', [dataset])).rows[0].number}`,
    };
    const { runBench } = await import(join(root, 'dist/bench/main.js'));
    const apexFile = createRequire(join(root, 'web/package.json')).resolve('apexcharts/dist/apexcharts.js');
    const { json, table } = await runBench(server, folder, apexFile, rows);
    say(JSON.stringify(json, null, 2));
    if (!args.json) say(`\n${table}`);
    await client.end();
  } finally {
    await application.stop();
    rmSync(stallFile, { force: true });
  }
});
