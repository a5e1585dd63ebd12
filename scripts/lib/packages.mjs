import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
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

export const chromiumPath = '/usr/bin/chromium';

const needs = {
  postgresql: () => postgresPrograms() !== null,
  chromium: () => existsSync(chromiumPath),
};

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
  await command('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], { env });
}
