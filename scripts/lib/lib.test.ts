import { spawn } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
// @ts-expect-error: the scripts are plain JavaScript, run before anything is installed
import { readArgs, wholeNumber } from './args.mjs';
// @ts-expect-error: see above
import { command } from './command.mjs';
// @ts-expect-error: see above
import { ensureFolder } from './folder.mjs';
// @ts-expect-error: see above
import { lockFolder } from './lock.mjs';
// @ts-expect-error: see above
import { ensurePortFree } from './port.mjs';
// @ts-expect-error: see above
import { removeData, startPostgres } from './postgres.mjs';
// @ts-expect-error: see above
import { errorText } from './say.mjs';
// @ts-expect-error: see above
import { withSettings } from './settings.mjs';
// @ts-expect-error: see above
import { teamOptions } from './team.mjs';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'sorvik-scripts-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const listen = (server: Server) =>
  new Promise<number>((done) =>
    server.listen(0, '127.0.0.1', () => {
      const address = server.address();
      done(typeof address === 'object' && address ? address.port : 0);
    }),
  );

describe('options', () => {
  it.each(['0', '65536', '1.5', 'x', '-1', ''])('a port cannot be "%s"', (text) => {
    expect(() => wholeNumber(text, 'port', 1, 65535)).toThrow(
      `--port ${text}: give a whole number from 1 to 65535.`,
    );
  });
  it('are read, and left out', () => {
    expect(wholeNumber('4310', 'port', 1, 65535)).toBe(4310);
    expect(wholeNumber(undefined, 'port', 1, 65535)).toBeUndefined();
    expect(readArgs({ port: { type: 'string' } }, 'usage')).toEqual({});
  });
});

describe('settings', () => {
  const options = {
    address: { type: 'string' },
    'trust-proxies': { type: 'string' },
    team: { type: 'boolean' },
  };
  const file = (text: string) => {
    const path = join(folder, 'sorvik.conf');
    writeFileSync(path, text);
    return path;
  };
  it('are what is given, else what the environment says, else the file', () => {
    const config = file(
      '# ours\nSORVIK_ADDRESS=https://c.example\nSORVIK_TRUST_PROXIES="10.0.0.1"\nSORVIK_TEAM=yes\n',
    );
    expect(withSettings({ config }, options, {})).toMatchObject({
      address: 'https://c.example',
      'trust-proxies': '10.0.0.1',
      team: true,
    });
    const env = { SORVIK_CONFIG: config, SORVIK_ADDRESS: 'https://b.example', SORVIK_TEAM: 'false' };
    expect(withSettings({}, options, env)).toMatchObject({ address: 'https://b.example' });
    expect(withSettings({}, options, env)).not.toHaveProperty('team');
    expect(withSettings({ address: 'https://a.example' }, options, env).address).toBe('https://a.example');
  });
  it('that are not meant so are refused by name', () => {
    expect(() => withSettings({ config: file('SORVIK_ADRESS=x') }, options, {})).toThrow(
      'no setting SORVIK_ADRESS',
    );
    expect(() => withSettings({}, options, { SORVIK_TEAM: 'perhaps' })).toThrow('SORVIK_TEAM=perhaps');
    expect(() => withSettings({ config: '/nowhere' }, options, {})).toThrow('cannot be read (ENOENT)');
  });
});

describe('a server for a team', () => {
  const team = true;
  const address = 'https://boards.example.org';
  it('listens where it is told to, else on the loopback address', () => {
    expect(teamOptions({})).toBeNull();
    expect(teamOptions({ team, address })).toMatchObject({ host: '127.0.0.1', port: 4310 });
    expect(
      teamOptions({ team, address, listen: '[::]:80', 'trust-proxies': '10.0.0.0/8,::1' }),
    ).toMatchObject({
      host: '::',
      port: 80,
      options: { proxies: ['10.0.0.0/8', '::1'] },
    });
    expect(teamOptions({ team, address: 'http://localhost:4700' })).toMatchObject({ port: 4700 });
  });
  it.each([
    [{ listen: '0.0.0.0:80' }, 'add --team'],
    [{ team }, 'needs --address'],
    [{ team, address: 'ftp://x' }, 'needs --address'],
    [{ team, address: 'http://boards.example.org' }, 'must begin with https'],
    [{ team, address, listen: 'anywhere' }, 'give an address and a port'],
    [{ team, address, 'trust-proxies': 'proxy' }, 'is no address'],
  ])('refuses %o', (given, why) => {
    expect(() => teamOptions(given)).toThrow(why);
  });
});

describe('the data directory', () => {
  it('is made with all that is above it', () => {
    const deep = join(folder, 'a/b/c');
    ensureFolder(deep);
    writeFileSync(join(deep, 'x'), '');
    ensureFolder(deep);
  });
  it('is refused where there can be none', () => {
    writeFileSync(join(folder, 'file'), '');
    expect(() => ensureFolder(join(folder, 'file/inside'))).toThrow(/cannot be used \((ENOTDIR|EEXIST)\)/);
    expect(() => ensureFolder('/proc/nowhere/at/all')).toThrow('Choose another with --data DIR.');
  });

  it('is used by one at a time, who is named', async () => {
    const unlock = await lockFolder(folder, 'http://127.0.0.1:1');
    await expect(lockFolder(folder, 'http://127.0.0.1:2')).rejects.toThrow(
      `already runs on this data directory, at http://127.0.0.1:1 (process ${process.pid})`,
    );
    unlock();
    // The helper that held the lock takes a moment to end.
    await expect
      .poll(
        () =>
          lockFolder(folder, 'http://127.0.0.1:2').then(
            (later: () => void) => later() ?? true,
            () => false,
          ),
        { timeout: 5000 },
      )
      .toBe(true);
  });
  it('stays with one that is stopped and answers nobody, and is free when that is killed', async () => {
    const script = `import { lockFolder } from ${JSON.stringify(join(import.meta.dirname, 'lock.mjs'))};
      await lockFolder(${JSON.stringify(folder)}, 'http://127.0.0.1:1');
      console.log('held');
      setInterval(() => {}, 1000);`;
    const other = spawn(process.execPath, ['--input-type=module', '-e', script], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    await new Promise((done) => other.stdout.once('data', done));
    other.kill('SIGSTOP');
    await expect(lockFolder(folder, 'http://127.0.0.1:2')).rejects.toThrow(`(process ${other.pid})`);
    other.kill('SIGKILL');
    await expect
      .poll(
        () =>
          lockFolder(folder, 'http://127.0.0.1:2').then(
            (later: () => void) => later() ?? true,
            () => false,
          ),
        { timeout: 5000 },
      )
      .toBe(true);
  });
  it('may hold a note that makes no sense', async () => {
    mkdirSync(folder, { recursive: true });
    writeFileSync(join(folder, 'running.json'), '{broken');
    await expect(lockFolder(folder, 'http://127.0.0.1:3')).resolves.toBeTypeOf('function');
  });
});

it('a taken port is named with a way out', async () => {
  const server = createServer();
  const port = await listen(server);
  await expect(ensurePortFree(port)).rejects.toThrow(
    `Port ${port} is taken by another program. Choose another: npm start -- --port`,
  );
  await new Promise((done) => server.close(done));
  await expect(ensurePortFree(port)).resolves.toBeUndefined();
});

it('a command that fails brings what it said', async () => {
  expect((await command('echo', ['well'])).trim()).toBe('well');
  await expect(command('sh', ['-c', 'echo why >&2; exit 3'])).rejects.toMatchObject({
    code: 3,
    output: 'why\n',
  });
});

describe('what goes wrong on a machine', () => {
  it('is told in one sentence', () => {
    const full = Object.assign(new Error('ENOSPC: no space left on device, write'), {
      code: 'ENOSPC',
      path: '/x/y',
    });
    expect(errorText(full)).toBe(
      'There is no room left on the disk (/x/y). Free some space, then try again.',
    );
    expect(
      errorText(
        Object.assign(new Error('initdb ended with 1'), {
          output: 'could not write: No space left on device',
        }),
      ),
    ).toContain('no room left on the disk');
    expect(errorText(Object.assign(new Error('no'), { code: 'EACCES', path: '/x' }))).toBe(
      '/x cannot be used by this user (EACCES).',
    );
    expect(errorText(new Error('unforeseen'))).toContain('lib.test.ts');
  });

  it('of a database: another version, a lost or wrong password, a folder that is none', async () => {
    chmodSync(folder, 0o755);
    const started = await startPostgres(folder);
    await started.stop();
    const [version, secret] = [join(folder, 'postgres/PG_VERSION'), join(folder, 'postgres.secret')];
    const [made, password] = [readFileSync(version, 'utf8'), readFileSync(secret, 'utf8')];
    const refused = (text: string) => expect(startPostgres(folder)).rejects.toThrow(text);
    writeFileSync(version, '9\n');
    await refused('was made by PostgreSQL 9');
    rmSync(version);
    await refused('is no database: PG_VERSION is missing');
    writeFileSync(version, made);
    rmSync(secret);
    await refused('postgres.secret. Bring that file back');
    writeFileSync(secret, 'another');
    await refused('is not the one of the database in');
    writeFileSync(secret, password);
    rmSync(join(folder, 'postgres/global/pg_control'));
    await refused('PostgreSQL did not start: ');
  }, 120_000);

  it.skipIf(process.getuid?.() !== 0)(
    'a folder that only its owner may enter has its database elsewhere, and remembers where',
    async () => {
      const home = join(folder, 'home');
      mkdirSync(home, { mode: 0o700 });
      const data = join(home, 'data');
      const started = await startPostgres(data);
      await started.stop();
      const place = readFileSync(join(data, 'cluster-at'), 'utf8').trim();
      expect(existsSync(join(place, 'postgres/PG_VERSION'))).toBe(true);
      const again = await startPostgres(data);
      await again.stop();
      expect(readFileSync(join(data, 'cluster-at'), 'utf8').trim()).toBe(place);
      removeData(data);
      expect(existsSync(place)).toBe(false);
      expect(existsSync(data)).toBe(false);
    },
    60_000,
  );
});
