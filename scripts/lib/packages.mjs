import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { command } from './command.mjs';
import { Refusal, say } from './say.mjs';

/** Runs `npm ci` unless what is installed already answers to the lock file. */
export async function ensureNodeModules(root) {
  const stamp = join(root, 'node_modules', '.sorvik-installed');
  const wanted = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('Installing packages (npm ci) ..');
  await command('npm', ['ci', '--no-audit', '--no-fund'], { cwd: root });
  writeFileSync(stamp, wanted);
}

/** The folder of the newest installed PostgreSQL's programs, or null. */
export function postgresPrograms() {
  const base = '/usr/lib/postgresql';
  const versions = existsSync(base) ? readdirSync(base) : [];
  const found = versions
    .sort((a, b) => Number(b) - Number(a))
    .map((version) => join(base, version, 'bin'))
    .find((folder) => existsSync(join(folder, 'initdb')) && existsSync(join(folder, 'postgres')));
  return found ?? null;
}

/** Names that a Chromium goes by; first the one that has no windows, which runs tests in two thirds of the time. */
const browsers = ['chromium-headless-shell', 'chromium', 'chromium-browser', 'google-chrome', 'chrome'];

/** The path of the browser for tests and measurements: what SORVIK_CHROMIUM names, or the first one on the PATH; null for none. */
export function browserPath() {
  const given = process.env.SORVIK_CHROMIUM;
  if (given) return given;
  const folders = (process.env.PATH ?? '').split(delimiter);
  const found = folders.flatMap((folder) => browsers.map((name) => join(folder, name)));
  return found.find((path) => existsSync(path)) ?? null;
}

const needs = {
  postgresql: () => postgresPrograms() !== null,
  chromium: () => browserPath() !== null,
};

/** What is installed in the place of a package, where this Debian has it. */
const rather = { chromium: 'chromium-headless-shell' };

/** The package to install for a need. */
async function packageFor(name) {
  if (!rather[name]) return name;
  return command('apt-cache', ['show', '--no-all-versions', rather[name]]).then(
    () => rather[name],
    () => name,
  );
}

/** Installs missing Debian packages when root; else refuses with the command that does. */
export async function ensureDebianPackages(names) {
  const missing = names.filter((name) => !needs[name]());
  if (!missing.length) return;
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get'))
    throw new Refusal(
      `Missing on this machine: ${missing.join(', ')}. Install with:\n\n  sudo apt-get update && sudo apt-get install -y --no-install-recommends ${missing.join(' ')}\n`,
    );
  say(`Installing ${missing.join(' and ')} ..`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  await command('apt-get', ['update', '-qq'], { env });
  const packages = await Promise.all(missing.map(packageFor));
  await command('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], { env });
}
