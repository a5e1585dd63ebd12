import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, expect, it } from 'vitest';

const root = fileURLToPath(new URL('../..', import.meta.url));
/** The rules of the house over a tree of its own. */
const tree = mkdtempSync(join(tmpdir(), 'sorvik-layers-'));
const rules = JSON.parse(readFileSync(join(root, 'biome.json'), 'utf8'));
writeFileSync(join(tree, 'biome.json'), JSON.stringify({ ...rules, vcs: { enabled: false } }));
afterAll(() => rmSync(tree, { recursive: true }));

/** What the linter says of a file with one import in it. */
function linted(file: string, from: string) {
  const path = join(tree, file);
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(path, `import { x } from '${from}';\nexport const y = x;\n`);
  const biome = join(root, 'node_modules/@biomejs/biome/bin/biome');
  const { status, stdout, stderr } = spawnSync(process.execPath, [biome, 'lint', file], {
    cwd: tree,
    encoding: 'utf8',
  });
  rmSync(path);
  return { status, text: stdout + stderr };
}

it.each([
  ['core/forms/new.ts', '../text/caption', 'core/forms imports'],
  ['core/data/new.ts', '../board/board', 'core/data imports'],
  ['core/pipeline/shapes/new.ts', '../../edit/defaults', 'core/pipeline imports'],
  ['core/text/new.ts', '@sorvik/web/app/api', 'core/text imports'],
  ['core/levers/new.ts', 'node:fs', 'core/levers imports'],
  ['formula/new.ts', '@sorvik/core/data/values', 'imports nothing of ours'],
  ['server/new.ts', '@sorvik/web/app/api', 'builds on core and formula'],
  ['server/new.ts', '@sorvik/view/svg', 'builds on core and formula'],
  ['server/pictures/new.ts', '@sorvik/web/app/api', 'Pictures are drawn by the view'],
  ['view/new.ts', 'react', 'knows no React'],
  ['view/new.ts', '@sorvik/web/app/store', 'knows no React'],
  ['embed/new.ts', '@sorvik/web/app/api', 'builds on view, core and formula'],
  ['embed/new.ts', 'react', 'builds on view, core and formula'],
  ['web/bench/new.ts', '@sorvik/server/app', 'builds on view, core and formula'],
])('the linter refuses that %s imports %s', (file, from, message) => {
  const { status, text } = linted(file, from);
  expect(text).toContain(message);
  expect(status).not.toBe(0);
});

it.each([
  ['core/forms/new.ts', '../data/values'],
  ['server/pictures/new.ts', '@sorvik/view/svg'],
  ['core/edit/offers/new.ts', '../../text/caption'],
  ['core/board/new.ts', '@sorvik/formula/lever-names'],
  ['web/bench/new.ts', '@sorvik/core/edit/defaults'],
  ['core/data/new.test.ts', '../board/board'],
])('and takes it that %s imports %s', (file, from) => {
  expect(linted(file, from)).toMatchObject({ status: 0 });
});
