// npm run docs: writes what is derived from the code: the JSON Schema of the board document.
import { writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ensureBuilt } from './lib/build.mjs';
import { run, say } from './lib/say.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
await run(async () => {
  await ensureBuilt(root);
  const { publishedBoardSchema } = await import(join(root, 'dist/server/main.js'));
  const file = join(root, 'docs/board.schema.json');
  writeFileSync(file, `${JSON.stringify(publishedBoardSchema(), null, 2)}\n`);
  say(`Wrote ${file}`);
});
