// npm run soak: rows are pushed while shows are open, and server and database are killed in between.
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readArgs, wholeNumber } from './lib/args.mjs';
import { bundle, ensureBuilt } from './lib/build.mjs';
import { ensureDebianPackages, ensureNodeModules } from './lib/packages.mjs';
import { removeData } from './lib/postgres.mjs';
import { run, say } from './lib/say.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const usage = `npm run soak -- [--minutes N] [--shows N]

  --minutes N  how long (10)
  --shows N    shows that are open meanwhile (20)`;

await run(async () => {
  const args = readArgs({ minutes: { type: 'string' }, shows: { type: 'string' } }, usage);
  const minutes = wholeNumber(args.minutes, 'minutes', 1, 1000) ?? 10;
  const shows = wholeNumber(args.shows, 'shows', 1, 100) ?? 20;
  await ensureDebianPackages(['postgresql', 'chromium']);
  await ensureNodeModules(root);
  await ensureBuilt(root);
  await bundle(root, 'bench/soak.ts', 'dist/bench/soak.js');
  const folder = join(root, '.sorvik', `soak-${process.pid}`);
  const port = 20_000 + (process.pid % 20_000);
  let child;
  const start = () =>
    new Promise((done, fail) => {
      const own = ['--port', String(port), '--data', folder, '--no-demo'];
      child = spawn(process.execPath, [join(root, 'scripts/start.mjs'), ...own], {
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      child.once('exit', (code) => fail(new Error(`npm start ended with ${code}`)));
      child.stdout.on('data', (chunk) => String(chunk).includes('Sorvik is at') && done());
    });
  const gone = () => new Promise((done) => child.once('exit', done));
  await start();
  try {
    const { default: pg } = await import('pg');
    const query = async (text) => {
      const client = new pg.Client({
        host: '127.0.0.1',
        port: Number(readFileSync(join(folder, 'postgres/postmaster.pid'), 'utf8').split('\n')[3]),
        user: 'sorvik',
        password: readFileSync(join(folder, 'postgres.secret'), 'utf8'),
        database: 'sorvik',
      });
      await client.connect();
      try {
        const { rows } = await client.query("SELECT number FROM sorvik.datasets WHERE name = 'Soak'");
        return await client.query(text.replace('data.soak', `data.d_${rows[0].number}`));
      } finally {
        await client.end();
      }
    };
    const { soak } = await import(join(root, 'dist/bench/soak.js'));
    const found = await soak(
      {
        url: `http://127.0.0.1:${port}`,
        query,
        killServer: async () => {
          const ended = gone();
          child.kill('SIGKILL');
          await ended;
          await start();
        },
        killDatabase: () =>
          process.kill(
            Number(readFileSync(join(folder, 'postgres/postmaster.pid'), 'utf8').split('\n')[0]),
            'SIGKILL',
          ),
      },
      minutes,
      shows,
      say,
    );
    say(JSON.stringify(found, null, 2));
    if (!found.ok) process.exitCode = 1;
  } finally {
    const ended = gone();
    child.kill('SIGINT');
    await ended;
    removeData(folder);
  }
});
