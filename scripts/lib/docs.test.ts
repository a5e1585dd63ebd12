import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { sentencesPage } from '@sorvik/core/edit/sentences-page';
import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
const pages = [
  'README.md',
  ...readdirSync(join(root, 'docs'))
    .filter((name) => name.endsWith('.md'))
    .map((name) => `docs/${name}`),
];
const text = (page: string) => readFileSync(join(root, page), 'utf8');
const { scripts } = JSON.parse(text('package.json')) as { scripts: Record<string, string> };

it('the page of sentences is what the code says: `npm run docs` writes it', () => {
  expect(text('docs/sentences.md')).toBe(sentencesPage(fullEngine));
});

describe.each(pages)('%s', (page) => {
  const content = text(page);
  const plain = content.replace(/```[\s\S]*?```/g, '');
  it('links to what is there', () => {
    const links = [...plain.matchAll(/\]\(([^)\s]+)\)/g)].map(([, link]) => link!);
    for (const link of links) {
      expect(link, 'no addresses of other machines').not.toMatch(/^[a-z]+:/);
      const [path = ''] = link.split('#');
      expect(existsSync(join(root, dirname(page), path)), `${page}: ${link}`).toBe(true);
    }
  });
  it('names files and folders of the code that there are', () => {
    const named = content.matchAll(/`((?:formula|core|view|web|server|demo|bench|e2e|scripts)\/[\w./-]*)`/g);
    const missing = [...named]
      .map(([, path]) => path!.replace(/\/$/, ''))
      .filter((path) => !['', '.ts', '.tsx', '.test.ts'].some((end) => existsSync(join(root, path + end))));
    expect(missing).toEqual([]);
  });
  it('names commands that there are, with options that they take', () => {
    const commands = [...content.matchAll(/npm (start|test|run ([a-z-]+))(?: -- ([^\n`]*))?/g)];
    for (const [all, first, name = first, options = ''] of commands) {
      expect(Object.keys(scripts), all).toContain(name);
      const source = text(scripts[name!]!.split(' ').find((part) => part.endsWith('.mjs')) ?? 'package.json');
      for (const [option] of options.matchAll(/--[a-z-]+/g)) expect(source, all).toContain(option);
    }
  });
});

it('every picture is shown somewhere, and there are few of them', () => {
  const pictures = readdirSync(join(root, 'docs/screenshots'));
  expect(pictures.length).toBeLessThan(20);
  const all = pages.map(text).join('\n');
  for (const picture of pictures) expect(all).toContain(`screenshots/${picture}`);
});

it('every function is in the page of formulas', () => {
  const page = text('docs/formulas.md');
  for (const { name } of fullEngine.functions) expect(page).toContain(`\`${name}\``);
});

/** The files that a page's worked example is, under the names that they would have. */
const examples = [
  ['condition', 'core/conditions/every.ts', 'core/testing/every-condition.ts', [['../conditions/', './']]],
  ['lever', 'core/levers/stars.ts', 'core/testing/stars-lever.ts', [['../levers/', './']]],
  [
    'lever',
    'web/levers/controls/StarsControl.tsx',
    'web/testing/StarsControl.tsx',
    [
      ['@sorvik/core/testing/stars-lever', '@sorvik/core/levers/stars'],
      ['../levers/control-kind', '../control-kind'],
    ],
  ],
  ['guide', 'core/guides/corner.ts', 'core/testing/corner-guide.ts', [['../guides/', './']]],
  ['form', 'core/forms/needles.ts', 'core/testing/needles-form.ts', [['../forms/', './']]],
] as const;

it.each(examples)(
  'the worked example of a %s, %s, is the one that is tested, word for word',
  (of, as, file, moved) => {
    const [, shown] = text(`docs/add-a-${of}.md`).split(`\n// ${as}\n`);
    const tested = moved.reduce((code, [from, to]) => code.replaceAll(`'${from}`, `'${to}`), text(file));
    expect(shown?.split('```')[0]).toBe(tested);
  },
);
