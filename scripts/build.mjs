// npm run build: installs packages and builds, so that a start as a user who may write nothing here finds all there.
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readArgs } from './lib/args.mjs';
import { ensureBuilt } from './lib/build.mjs';
import { ensureNodeModules } from './lib/packages.mjs';
import { run, say } from './lib/say.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');

await run(async () => {
  readArgs({}, 'npm run build');
  await ensureNodeModules(root);
  await ensureBuilt(root);
  say('Built.');
});
