// npm run dev: server and page with reload on change, on a data directory of their own.
import { spawn } from 'node:child_process';
import { existsSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readArgs, wholeNumber } from './lib/args.mjs';
import { bundle, watchBundle } from './lib/build.mjs';
import { ensureFolder } from './lib/folder.mjs';
import { lockFolder } from './lib/lock.mjs';
import { ensureDebianPackages, ensureNodeModules } from './lib/packages.mjs';
import { ensurePortFree } from './lib/port.mjs';
import { startPostgres } from './lib/postgres.mjs';
import { errorText, run, say } from './lib/say.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const usage = `npm run dev -- [--port N] [--data DIR]

  --port N    serve the page on this port of the loopback address (4320), the API on the next
  --data DIR  keep the database here (.sorvik/dev)`;

/** Runs the bundled server as a process of its own, again after each change. */
function serverOf(options) {
  let child;
  const start = () => {
    const started = spawn(process.execPath, [join(root, 'scripts/lib/serve.mjs'), JSON.stringify(options)], {
      stdio: 'inherit',
    });
    child = started;
    return started;
  };
  const stop = () =>
    new Promise((done) => {
      if (!child || child.exitCode !== null) return done();
      child.once('exit', done);
      child.kill('SIGTERM');
    });
  return {
    stop,
    async restart() {
      await stop();
      start();
    },
  };
}

/** Waits until the server answers. */
async function answers(url) {
  for (let tries = 0; tries < 200; tries++) {
    if ((await fetch(`${url}/healthz`).catch(() => null))?.ok) return;
    await new Promise((go) => setTimeout(go, 100));
  }
  throw new Error('The server did not answer within 20 seconds.');
}

await run(async () => {
  const args = readArgs({ port: { type: 'string' }, data: { type: 'string' } }, usage);
  const port = wholeNumber(args.port, 'port', 1, 65534) ?? 4320;
  const folder = resolve(args.data ?? join(root, '.sorvik', 'dev'));
  const api = `http://127.0.0.1:${port + 1}`;
  ensureFolder(folder);
  process.on('exit', await lockFolder(folder, `http://127.0.0.1:${port}`));
  await ensurePortFree(port);
  await ensurePortFree(port + 1);
  await ensureDebianPackages(['postgresql']);
  await ensureNodeModules(root);

  let postgres;
  let server;
  let watching;
  let page;
  let stopping = false;
  const stop = async (code) => {
    if (stopping) return;
    stopping = true;
    page?.kill('SIGTERM');
    await watching?.dispose();
    await server?.stop();
    await postgres?.stop();
    process.exit(code);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => stop(0));

  try {
    postgres = await startPostgres(folder);
    // Within the project: from there packages are found.
    const bundles = join(root, 'dist', 'dev');
    const entry = join(bundles, 'server.js');
    server = serverOf({
      entry,
      databaseUrl: postgres.url,
      port: port + 1,
      spool: join(folder, 'spool'),
      key: join(folder, 'connections.key'),
      migrations: join(root, 'server/migrations'),
      logFile: join(folder, 'server.log'),
    });
    watching = await watchBundle(root, 'server/main.ts', entry, () => server.restart());
    await answers(api);
    const seeded = join(folder, 'demo-seeded');
    if (!existsSync(seeded)) {
      say('Loading the demo data ..');
      const demo = join(bundles, 'demo.js');
      await bundle(root, 'demo/main.ts', demo);
      await (await import(demo)).seedDemo(api, 30_000);
      writeFileSync(seeded, '');
    }
    page = spawn(
      process.execPath,
      [
        join(root, 'node_modules/vite/bin/vite.js'),
        '--port',
        String(port),
        '--strictPort',
        '--host',
        '127.0.0.1',
      ],
      { cwd: join(root, 'web'), stdio: 'inherit', env: { ...process.env, SORVIK_API: api } },
    );
    page.once('exit', () => stop(1));
  } catch (error) {
    if (stopping) return;
    process.stderr.write(`\n${errorText(error)}\n`);
    await stop(1);
  }
});
