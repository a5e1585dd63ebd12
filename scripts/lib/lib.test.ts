import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
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

  it('is used by one at a time: a note counts only while somebody answers there', async () => {
    const server = createServer((_request, response) => response.end('{}'));
    const port = await listen(server);
    const url = `http://127.0.0.1:${port}`;
    const unlock = await lockFolder(folder, url);
    await expect(lockFolder(folder, 'http://127.0.0.1:1')).rejects.toThrow(
      `already runs on this data directory, at ${url}`,
    );
    await new Promise((done) => server.close(done));
    const later = await lockFolder(folder, 'http://127.0.0.1:2');
    expect(JSON.parse(readFileSync(join(folder, 'running.json'), 'utf8')).url).toBe('http://127.0.0.1:2');
    later();
    unlock();
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
