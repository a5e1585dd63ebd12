import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, it } from 'vitest';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
const sheets = ['web', 'view'].flatMap((folder) =>
  readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
    .filter((name) => /(^|\/)_[^/]*\.scss$/.test(name) && !name.includes('node_modules'))
    .map((name) => `${folder}/${name}`),
);
const text = (sheet: string) => readFileSync(join(root, sheet), 'utf8');

/** The class names that a sheet has a plain rule for: those that stand alone, outside of conditions such as `@media`. */
const defined = (sheet: string): string[] =>
  [...text(sheet).matchAll(/^(\.sv-[\w-]+(?:,\s*\.sv-[\w-]+)*) \{$/gm)].flatMap(([, names]) =>
    [...names!.matchAll(/\.(sv-[\w-]+)/g)].map(([, name]) => name!),
  );

it('each class name is defined in one place', () => {
  const places = new Map<string, Set<string>>();
  for (const sheet of sheets)
    for (const name of defined(sheet)) places.set(name, (places.get(name) ?? new Set()).add(sheet));
  expect(places.size).toBeGreaterThan(100);
  expect([...places].filter(([, of]) => of.size > 1).map(([name, of]) => [name, ...of])).toEqual([]);
});

it('each sheet is part of the theme', () => {
  const theme = text('web/theme/theme.scss') + text('view/theme/_base.scss');
  for (const sheet of sheets) {
    const name = sheet
      .split('/')
      .at(-1)!
      .replace(/^_|\.scss$/g, '');
    expect(theme, sheet).toMatch(new RegExp(`@import "[^"]*/${name}";`));
  }
});

it('browser tests look for roles, names and parts, never for classes', () => {
  const specs = readdirSync(join(root, 'e2e')).filter((name) => name.endsWith('.ts'));
  const named = specs.flatMap((name) =>
    text(`e2e/${name}`)
      .split('\n')
      // A page of somebody's own brings its own styles.
      .filter((line) => /\.sv-/.test(line) && !line.includes('content: '))
      .map((line) => `${name}: ${line.trim()}`),
  );
  expect(named).toEqual([]);
});
