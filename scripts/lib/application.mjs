import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { removeData } from './postgres.mjs';

/**
 * Starts the application as users do, on a data directory of its own that is removed with it. `preload`: a module that is
 * loaded into it first, as measurements need. `more`: options; without them nothing comes in by itself.
 */
export async function startApplication(root, name, { preload, env = {}, more = ['--no-feed'] } = {}) {
  const folder = join(root, '.sorvik', `${name}-${process.pid}`);
  const port = 20_000 + (process.pid % 20_000);
  const child = spawn(
    process.execPath,
    [
      ...(preload ? ['--import', preload] : []),
      join(root, 'scripts/start.mjs'),
      '--port',
      String(port),
      '--data',
      folder,
      ...more,
    ],
    {
      stdio: ['ignore', 'pipe', 'inherit'],
      env: { ...process.env, ...env },
    },
  );
  let told = '';
  await new Promise((done, fail) => {
    child.once('exit', (code) => fail(new Error(`npm start ended with ${code}`)));
    child.stdout.on('data', (chunk) => {
      told += chunk;
      if (told.includes('Sorvik is at')) done();
    });
  });
  return {
    folder,
    url: `http://127.0.0.1:${port}`,
    /** The pages of another website, which show its charts. */
    pages: /(http:\S+)\/ferries\.html/.exec(told)?.[1],
    pid: child.pid,
    async stop() {
      const ended = new Promise((done) => child.once('exit', done));
      child.kill('SIGINT');
      await ended;
      removeData(folder);
    },
  };
}
