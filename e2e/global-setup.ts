import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

export const freePort = () =>
  new Promise<number>((done, fail) => {
    const probe = createServer();
    probe.once('error', fail);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => done(typeof address === 'object' && address ? address.port : 0));
    });
  });

/** Starts the application the way a user does, on a data directory of its own; `told` hears what it says. */
export function startApplication(
  folder: string,
  port: number,
  more: string[] = [],
  told: (output: string) => void = () => {},
): Promise<ChildProcess> {
  const script = resolve(import.meta.dirname, '../scripts/start.mjs');
  const child = spawn(process.execPath, [script, '--port', String(port), '--data', folder, ...more], {
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  return new Promise((done, fail) => {
    let output = '';
    const hear = (chunk: Buffer) => {
      output += chunk;
      if (!output.includes(`Sorvik is at http://127.0.0.1:${port}`)) return;
      told(output);
      done(child);
    };
    child.stdout?.on('data', hear);
    child.stderr?.on('data', hear);
    child.once('exit', (code) => fail(new Error(`npm start ended with ${code}\n${output}`)));
  });
}

export default async function setup() {
  // Empty is as good as not given.
  const own = process.env.SORVIK_E2E_DATA || undefined;
  const folder = own ?? mkdtempSync(join(tmpdir(), 'sorvik-e2e-'));
  const port = await freePort();
  const child = await startApplication(folder, port, ['--rows', '30000', '--no-feed'], (output) => {
    // A page of another website, which shows its charts.
    process.env.SORVIK_PAGES = /(http:\S+)\/ferries\.html/.exec(output)![1]!;
  });
  process.env.SORVIK_URL = `http://127.0.0.1:${port}`;
  return async () => {
    const ended = new Promise((done) => child.once('exit', done));
    child.kill('SIGINT');
    await ended;
    if (!own) rmSync(folder, { recursive: true, force: true });
  };
}
