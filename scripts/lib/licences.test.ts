import { existsSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { describe, expect, it } from 'vitest';

const root = join(import.meta.dirname, '../..');
/** What an MIT product may be made with and given on: nothing here asks for more than that the licence is kept. */
const allowed = [
  '0BSD',
  'Apache-2.0',
  'BlueOak-1.0.0',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'CC0-1.0',
  'ISC',
  'MIT',
  'MIT-0',
  // Asks for its own files alone, which nobody changes here.
  'MPL-2.0',
  'OFL-1.1',
  'Python-2.0',
  'Unlicense',
  'WTFPL',
];

interface Manifest {
  name: string;
  version: string;
  license?: string | { type: string };
  licenses?: { type: string }[];
  dependencies?: Record<string, string>;
  optionalDependencies?: Record<string, string>;
}

const read = (path: string): Manifest => JSON.parse(readFileSync(path, 'utf8'));

/** The manifest of a package; where it does not name its licence, with what its file of that begins with: `MIT License`. */
function licensed(path: string): Manifest {
  const manifest = read(path);
  const file = join(dirname(path), 'LICENSE');
  if (manifest.license || manifest.licenses || !existsSync(file)) return manifest;
  const [, license] = /^(?:The )?([\w.-]+) License/.exec(readFileSync(file, 'utf8')) ?? [];
  return license ? { ...manifest, license } : manifest;
}

/** The manifest of a package as the one in a folder would find it: there, or in a folder above. */
function manifestOf(name: string, from: string): string | undefined {
  for (let at = from; ; at = dirname(at)) {
    const path = join(at, 'node_modules', name, 'package.json');
    if (existsSync(path)) return path;
    if (at === dirname(at)) return undefined;
  }
}

/** Every package that the application needs when it runs, of those that it needs in turn. */
function productionPackages(): Map<string, Manifest> {
  const found = new Map<string, Manifest>();
  const visit = (folder: string) => {
    const { dependencies = {}, optionalDependencies = {} } = read(join(folder, 'package.json'));
    for (const name of Object.keys({ ...dependencies, ...optionalDependencies })) {
      const path = manifestOf(name, folder);
      if (!path || found.has(path)) continue;
      found.set(path, licensed(path));
      visit(dirname(path));
    }
  };
  for (const workspace of ['core', 'view', 'server', 'web', 'demo']) visit(join(root, workspace));
  return found;
}

/** Whether a licence lets one choose an allowed one, or asks for nothing but allowed ones. */
function fits(text: string): boolean {
  const plain = text.replace(/[()]/g, ' ');
  return plain
    .split(/ OR /i)
    .some((way) => way.split(/ AND /i).every((each) => allowed.includes(each.trim())));
}

const licenceOf = ({ license, licenses }: Manifest): string =>
  typeof license === 'string'
    ? license
    : (license?.type ?? licenses?.map(({ type }) => type).join(' OR ') ?? 'none');

describe('licences', () => {
  const packages = [...productionPackages().values()].filter(({ name }) => !name.startsWith('@sorvik/'));
  it('of every package that the application is made with let an MIT product be given on', () => {
    expect(packages.length).toBeGreaterThan(60);
    const wrong = packages.filter((each) => !fits(licenceOf(each)));
    expect(wrong.map((each) => `${each.name} ${each.version}: ${licenceOf(each)}`)).toEqual([]);
  });
  it('the charts of field profiles stay with the version whose licence is MIT', () => {
    const [apex] = packages.filter(({ name }) => name === 'apexcharts');
    expect(apex).toMatchObject({ license: 'MIT' });
    expect(apex!.version).toMatch(/^4\./);
    expect(packages.map(({ name }) => name)).not.toContain('react-apexcharts');
  });
  it.each([
    ['MIT', true],
    ['(MIT OR GPL-3.0)', true],
    ['MIT AND GPL-3.0', false],
    ['SEE LICENSE IN LICENSE', false],
    ['none', false],
  ])('%s: %s', (text, is) => {
    expect(fits(text)).toBe(is);
  });
});
