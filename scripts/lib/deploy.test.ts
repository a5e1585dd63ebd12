import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { describe, expect, it } from 'vitest';
import { parse } from 'yaml';

const root = resolve(import.meta.dirname, '../..');
const textOf = (name: string) => readFileSync(join(root, 'deploy', name), 'utf8');

/** The options of npm start, as variables. */
const known = new Set(
  [...readFileSync(join(root, 'scripts/start.mjs'), 'utf8').matchAll(/^ {2}'?([a-z-]+)'?: \{ type: /gm)].map(
    ([, name]) => `SORVIK_${name!.toUpperCase().replaceAll('-', '_')}`,
  ),
);

describe('what is deployed', () => {
  it('names options that there are, and no others', () => {
    expect(known.size).toBeGreaterThan(20);
    for (const name of readdirSync(join(root, 'deploy')))
      for (const [variable] of textOf(name).matchAll(/\bSORVIK_[A-Z_]+\b/g)) {
        // That one is for the proxy too.
        if (variable === 'SORVIK_HOST') continue;
        expect(known, `${name}: ${variable}`).toContain(variable);
      }
  });

  it('starts with the command that there is', () => {
    const [, command] = /^ExecStart=(.+)$/m.exec(textOf('sorvik.service'))!;
    const [, ...args] = command!.split(' ');
    const { stderr, status } = spawnSync(process.execPath, [...args.slice(0, 1), '--config', '/nowhere'], {
      cwd: root,
      encoding: 'utf8',
    });
    expect([status, stderr]).toEqual([1, expect.stringContaining('--config /nowhere: it cannot be read')]);
    expect(args).toEqual(['scripts/start.mjs', '--config', '/etc/sorvik.conf', '--data', '/var/lib/sorvik']);
  });

  it('is a unit that systemd takes, where it is here to be asked', () => {
    const folder = mkdtempSync(join(tmpdir(), 'sorvik-unit-'));
    try {
      execFileSync('systemd-analyze', ['--version'], { stdio: 'ignore' });
    } catch {
      // Nobody to ask: what it is made of is looked at instead.
      expect(textOf('sorvik.service')).toMatch(/\[Unit\][\s\S]*\[Service\][\s\S]*\[Install\]/);
      return;
    }
    const unit = join(folder, 'sorvik.service');
    // The programs of this machine, which has no such user.
    writeFileSync(
      unit,
      textOf('sorvik.service')
        .replace('/usr/bin/node', process.execPath)
        .replace(/^(User|Group)=.*$/gm, ''),
    );
    const { stderr } = spawnSync('systemd-analyze', ['verify', unit], { encoding: 'utf8' });
    expect(stderr.split('\n').filter((line) => line.includes('sorvik.service'))).toEqual([]);
    rmSync(folder, { recursive: true });
  });

  it('runs as a user without rights, and keeps nothing outside of its volumes', () => {
    const { services, volumes } = parse(textOf('compose.yaml'));
    expect(Object.keys(services)).toEqual(['database', 'sorvik', 'proxy']);
    expect(services.sorvik).toMatchObject({ read_only: true, cap_drop: ['ALL'] });
    // Nobody reaches it but by the proxy.
    expect(services.sorvik.ports).toBeUndefined();
    expect(services.database.ports).toBeUndefined();
    for (const { volumes: held = [] } of Object.values<{ volumes?: string[] }>(services))
      for (const each of held) expect(volumes).toHaveProperty(each.split(':')[0]!);
    const image = textOf('Containerfile');
    expect(/^USER (\d+)/m.exec(image)?.[1]).not.toBe('0');
    expect(image.indexOf('USER ')).toBeLessThan(image.indexOf('CMD ["node", "scripts'));
  });
});
