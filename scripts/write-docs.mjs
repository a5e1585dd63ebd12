// npm run docs: writes what is derived from the code: the JSON Schema of the board document, the page of sentences.
import { writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ensureBuilt } from './lib/build.mjs';
import { run, say } from './lib/say.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
await run(async () => {
  await ensureBuilt(root);
  const { docsPages } = await import(join(root, 'dist/server/main.js'));
  for (const [name, text] of Object.entries(docsPages())) {
    writeFileSync(join(root, 'docs', name), text);
    say(`Wrote docs/${name}`);
  }
});
