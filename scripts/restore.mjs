// npm run restore: brings back what a backup has, into a database that has nothing yet.
import { spawn } from 'node:child_process';
import { dirname, join, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { fileURLToPath } from 'node:url';
import { openArchive } from './lib/archive.mjs';
import { readArgs } from './lib/args.mjs';
import { databaseOf } from './lib/database-of.mjs';
import { knownSteps, rowCounts, stepsOf } from './lib/database-state.mjs';
import { ensureFolder } from './lib/folder.mjs';
import { ensureDebianPackages, ensureNodeModules, postgresPrograms } from './lib/packages.mjs';
import { Refusal, run, say } from './lib/say.mjs';
import { withSettings } from './lib/settings.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const usage = `npm run restore -- FILE [--data DIR] [--database URL] [--config FILE]

  FILE            what "npm run backup" wrote
  --data DIR      a data directory without a database (.sorvik/data); no server may run on it
  --database URL  an empty database, where it is not to be in the data directory`;
const options = { data: { type: 'string' }, database: { type: 'string' }, config: { type: 'string' } };

/** Fills a database: with all of a dump, or with nothing where that cannot be. */
async function fill(url, dump) {
  const args = [
    '--exit-on-error',
    '--single-transaction',
    '--no-owner',
    '--no-privileges',
    `--dbname=${url}`,
  ];
  const child = spawn(join(postgresPrograms(), 'pg_restore'), args, { stdio: ['pipe', 'ignore', 'pipe'] });
  let said = '';
  child.stderr.on('data', (chunk) => {
    said += chunk;
  });
  const ended = new Promise((done) => child.once('close', done));
  await pipeline(dump, child.stdin).catch((error) => {
    said ||= error.message;
    child.kill();
  });
  const code = await ended;
  if (code !== 0)
    throw new Refusal(`The backup could not be brought back, and nothing was: ${said.trim().split('\n')[0]}`);
}

await run(async () => {
  const given = readArgs(options, usage, { files: true });
  const [file, ...more] = given.files;
  if (!file || more.length) throw new Refusal(usage);
  const args = withSettings(given, options, process.env, { others: true });
  const folder = resolve(args.data ?? join(root, '.sorvik', 'data'));
  await ensureDebianPackages(['postgresql']);
  await ensureNodeModules(root);
  const { default: pg } = await import('pg');
  const archive = await openArchive(file);
  const { manifest } = archive;
  if (manifest.sorvik !== 1 || !(manifest.steps <= knownSteps(root)))
    throw new Refusal(`${file} was written by a newer version of Sorvik. Bring it back with that one.`);
  if (!args.database) ensureFolder(folder);
  const { url, stop } = await databaseOf({ database: args.database, folder, alone: true });
  const client = new pg.Client({ connectionString: url });
  try {
    await client.connect();
    if ((await stepsOf(client)) > 0)
      throw new Refusal(
        'This database has something of Sorvik already. Bring the backup back into an empty one.',
      );
    await fill(url, await archive.dump());
    const found = await rowCounts(client);
    const wrong = [...new Set([...Object.keys(found), ...Object.keys(manifest.rows)])].filter(
      (name) => found[name] !== manifest.rows[name],
    );
    if (wrong.length)
      throw new Refusal(
        `The backup came back with other numbers of rows than it was written with: ${wrong.slice(0, 5).join(', ')}. Do not use this database.`,
      );
    const all = Object.values(found).reduce((sum, n) => sum + n, 0);
    say(
      `Brought back and counted: ${Object.keys(found).length} tables, ${all.toLocaleString('en')} rows, as of ${manifest.at}.`,
    );
    say(
      'Start Sorvik as usual: column copies are made anew, and what an older version wrote is brought up to date.',
    );
  } finally {
    await client.end().catch(() => {});
    archive.close();
    await stop();
  }
});
