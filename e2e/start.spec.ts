import { type ChildProcess, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { expect, test } from '@playwright/test';
import { startApplication } from './global-setup';

const script = resolve(import.meta.dirname, '../scripts/start.mjs');
const port = 20_000 + (process.pid % 20_000);
const url = `http://127.0.0.1:${port}`;
let folder: string;

test.describe.configure({ mode: 'serial' });
test.beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'sorvik-start-'));
  // The database's own user has to be able to enter it.
  spawnSync('chmod', ['755', folder]);
});
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

const ended = (child: ChildProcess) => new Promise<number | null>((done) => child.once('exit', done));
const boardTitles = async () =>
  ((await (await fetch(`${url}/api/boards`)).json()) as { document: { title: string } }[]).map(
    ({ document }) => document.title,
  );
const postmaster = () => Number(readFileSync(join(folder, 'postgres/postmaster.pid'), 'utf8').split('\n')[0]);

async function createBoard(title: string) {
  const document = { version: 1, title, levers: [], charts: [] };
  const made = await fetch(`${url}/api/boards`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ document }),
  });
  expect(made.status).toBe(201);
}

test('starts, stops on Ctrl-C, and leaves no database behind', async () => {
  const child = await startApplication(folder, port, ['--rows', '2000']);
  expect(await boardTitles()).toContain('Which routes carry the sound?');
  const database = postmaster();
  await createBoard('Before the end');
  const again = spawnSync(process.execPath, [script, '--port', String(port + 1), '--data', folder], {
    encoding: 'utf8',
  });
  expect(again.status).toBe(1);
  expect(again.stderr).toContain(`already runs on this data directory, at ${url}`);
  const end = ended(child);
  child.kill('SIGINT');
  expect(await end).toBe(0);
  expect(() => process.kill(database, 0)).toThrow();
});

test('recovers after the server is killed outright, with nothing saved lost', async () => {
  const child = await startApplication(folder, port);
  await createBoard('Before the kill');
  const end = ended(child);
  child.kill('SIGKILL');
  await end;
  const next = await startApplication(folder, port);
  expect(await boardTitles()).toEqual(expect.arrayContaining(['Before the end', 'Before the kill']));

  // The database killed under the running server: it is started again by itself.
  const killed = postmaster();
  process.kill(killed, 'SIGKILL');
  // Its own processes outlive it for a moment and still answer: only another one tells that it has been started again.
  const started = () => {
    try {
      return postmaster();
    } catch {
      return killed;
    }
  };
  await expect.poll(started, { timeout: 30_000 }).not.toBe(killed);
  await expect.poll(async () => (await fetch(`${url}/healthz`)).status, { timeout: 20_000 }).toBe(200);
  await expect.poll(async () => (await fetch(`${url}/api/boards`)).status, { timeout: 20_000 }).toBe(200);
  expect(await boardTitles()).toContain('Before the kill');
  const nextEnd = ended(next);
  next.kill('SIGTERM');
  await nextEnd;
});

test('says what is wrong with a port, a data directory or an option', async () => {
  const holder = createServer();
  await new Promise<void>((done) => holder.listen(port, '127.0.0.1', done));
  const start = (...args: string[]) =>
    spawnSync(process.execPath, [script, ...args], { encoding: 'utf8', timeout: 15_000 });
  expect(start('--port', String(port), '--data', folder).stderr).toContain(
    `Port ${port} is taken by another program.`,
  );
  holder.close();
  expect(start('--data', '/proc/nowhere').stderr).toContain(
    'The data directory /proc/nowhere cannot be used',
  );
  expect(start('--port', 'ninety').stderr).toContain('--port ninety: give a whole number');
  expect(start('--prot', '1').stderr).toContain("Unknown option '--prot'");
});
