// npm run load: 200 people who are signed in use a server for a team for a minute.

import { spawn } from 'node:child_process';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readArgs } from './lib/args.mjs';
import { bundle, ensureBuilt } from './lib/build.mjs';
import { ensureDebianPackages, ensureNodeModules } from './lib/packages.mjs';
import { removeData } from './lib/postgres.mjs';
import { run, say } from './lib/say.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');

await run(async () => {
  readArgs({}, 'npm run load');
  await ensureDebianPackages(['postgresql']);
  await ensureNodeModules(root);
  await ensureBuilt(root);
  await bundle(root, 'bench/team-load.ts', 'dist/bench/team-load.js');
  const folder = join(root, '.sorvik', `load-${process.pid}`);
  const url = `http://127.0.0.1:${20_000 + (process.pid % 20_000)}`;
  const child = spawn(
    process.execPath,
    [join(root, 'scripts/start.mjs'), '--team', '--address', url, '--data', folder],
    { stdio: ['ignore', 'pipe', 'inherit'] },
  );
  const gone = new Promise((done) => child.once('exit', done));
  try {
    const link = await new Promise((done, fail) => {
      let said = '';
      child.once('exit', (code) => fail(new Error(`npm start ended with ${code}`)));
      child.stdout.on('data', (chunk) => {
        said += chunk;
        if (said.includes('Sorvik is at')) done(/once: (\S+)/.exec(said)[1]);
      });
    });
    const { teamLoad } = await import(join(root, 'dist/bench/team-load.js'));
    const { people, seconds, failures, kinds } = await teamLoad(url, link);
    say(`${people} people for ${seconds} s; failures: ${JSON.stringify(failures)}`);
    for (const { kind, count, medianMs, p95Ms } of kinds)
      say(`${kind.padEnd(8)} ${String(count).padStart(6)}  ${medianMs} ms (p95 ${p95Ms})`);
  } finally {
    child.kill('SIGINT');
    await gone;
    removeData(folder);
  }
});
