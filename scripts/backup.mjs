// npm run backup: writes boards, rows, people and rights into one file, while the server runs or not.
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { writeArchive } from './lib/archive.mjs';
import { readArgs } from './lib/args.mjs';
import { databaseOf } from './lib/database-of.mjs';
import { rowCounts, stepsOf } from './lib/database-state.mjs';
import { ensureFolder } from './lib/folder.mjs';
import { ensureDebianPackages, ensureNodeModules, postgresPrograms } from './lib/packages.mjs';
import { Refusal, run, say } from './lib/say.mjs';
import { withSettings } from './lib/settings.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const usage = `npm run backup -- FILE [--data DIR] [--database URL] [--config FILE]

  FILE            where to; it must not be there yet
  --data DIR      the data directory (.sorvik/data)
  --database URL  the database, where it is not in the data directory`;
const options = { data: { type: 'string' }, database: { type: 'string' }, config: { type: 'string' } };

/** Dumps what a transaction sees. */
function dumpOf(url, snapshot) {
  const args = [
    '--format=custom',
    '--no-owner',
    '--no-privileges',
    `--snapshot=${snapshot}`,
    `--dbname=${url}`,
  ];
  const child = spawn(join(postgresPrograms(), 'pg_dump'), args, { stdio: ['ignore', 'pipe', 'pipe'] });
  let said = '';
  child.stderr.on('data', (chunk) => {
    said += chunk;
  });
  // A dump that broke off is no end of the file.
  child.once('close', (code) => {
    if (code !== 0) child.stdout.destroy(new Error(`pg_dump ended with ${code}\n${said.trim()}`));
  });
  return child.stdout;
}

await run(async () => {
  const given = readArgs(options, usage, { files: true });
  const [file, ...more] = given.files;
  if (!file || more.length) throw new Refusal(usage);
  if (existsSync(file)) throw new Refusal(`${file} is there already: give another name, or remove it.`);
  const args = withSettings(given, options, process.env, { others: true });
  const folder = resolve(args.data ?? join(root, '.sorvik', 'data'));
  await ensureDebianPackages(['postgresql']);
  await ensureNodeModules(root);
  const { default: pg } = await import('pg');
  ensureFolder(dirname(resolve(file)));
  const { url, stop } = await databaseOf({ database: args.database, folder, alone: false });
  const client = new pg.Client({ connectionString: url });
  try {
    await client.connect();
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    const { rows } = await client.query(
      'SELECT pg_export_snapshot() AS snapshot, now() AS at, version() AS by',
    );
    const [{ snapshot, at, by }] = rows;
    const steps = await stepsOf(client);
    if (steps === 0) throw new Refusal('There is nothing of Sorvik in this database.');
    const manifest = { sorvik: 1, at, by, steps, rows: await rowCounts(client) };
    await writeArchive(file, manifest, dumpOf(url, snapshot));
    const all = Object.values(manifest.rows).reduce((sum, n) => sum + n, 0);
    say(
      `${file}: ${Object.keys(manifest.rows).length} tables, ${all.toLocaleString('en')} rows, as of ${at.toISOString()}.`,
    );
    say(
      'Passwords of other databases are sealed with connections.key in the data directory: keep that file apart.',
    );
  } finally {
    await client.end().catch(() => {});
    await stop();
  }
});
