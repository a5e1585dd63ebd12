import { mkdtemp, readdir, readFile, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DrizzleQueryError } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { errorForLog, LogFile } from './log-file';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'sorvik-log-'));
});
afterAll(() => rm(folder, { recursive: true }));

describe('the log', () => {
  it('is written in order, for its owner only', async () => {
    const path = join(folder, 'server.log');
    const log = new LogFile(path);
    for (let i = 0; i < 500; i++) log.write(`${i}\n`);
    await log.close();
    expect((await readFile(path, 'utf8')).trim().split('\n').map(Number)).toEqual(
      Array.from({ length: 500 }, (_, i) => i),
    );
    expect((await stat(path)).mode & 0o777).toBe(0o600);
  });

  it('is turned over at 10 MB, and keeps three files of what was', async () => {
    const own = await mkdtemp(join(folder, 'turned-'));
    const log = new LogFile(join(own, 'server.log'));
    const line = `${'x'.repeat(1_000_000)}\n`;
    for (let i = 0; i < 75; i++) {
      log.write(line);
      await log.close();
    }
    const names = (await readdir(own)).sort();
    expect(names).toEqual(['server.log', 'server.log.1', 'server.log.2', 'server.log.3']);
    for (const name of names) expect((await stat(join(own, name))).size).toBeLessThan(12_000_000);
  });

  it('gives lines up where the disk takes none, and goes on', async () => {
    const log = new LogFile('/dev/full');
    for (let i = 0; i < 100; i++) log.write(`${'x'.repeat(100_000)}\n`);
    await expect(log.close()).resolves.toBeUndefined();
  });

  it('says how many lines it could not write, once it can again', async () => {
    const path = join(folder, 'late.log');
    const log = new LogFile(path);
    // More than may wait, before anything can be written.
    for (let i = 0; i < 30; i++) log.write(`${'x'.repeat(100_000)}\n`);
    await log.close();
    log.write('again\n');
    await log.close();
    const text = await readFile(path, 'utf8');
    expect(text).toMatch(/"\d+ lines were not written: there was no room"/);
    expect(text.endsWith('again\n')).toBe(true);
  });

  it('holds no document that a query was given, nor what is in its cause', () => {
    const secret = '{"title":"Secret quay"}';
    const cause = Object.assign(new Error('value too long'), { code: '22001', detail: secret });
    const error = new DrizzleQueryError('INSERT INTO boards VALUES ($1)', [secret], cause);
    expect(error.message).toContain('Secret quay');
    const logged = JSON.stringify(errorForLog(error));
    expect(logged).not.toContain('Secret quay');
    expect(logged).toContain('22001');
    expect(logged).toContain('INSERT INTO boards');
  });
});
