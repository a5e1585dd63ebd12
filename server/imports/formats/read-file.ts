import { fork } from 'node:child_process';
import { rm, stat } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import type { Room } from '../../db/room';
import { tell } from '../../tell';
import { UnusableFile } from '../inspect';
import type { Order, Read } from './reader';

/** Reading a file may take so long, ms, and what comes of it so many bytes. */
const longest = 30 * 60_000;
const mostBytes = 32 * 1024 ** 3;
const look = 500;

/** The bundle of `reader.ts`: beside that of the server, or where tests have it made. */
const reader = () => process.env.SORVIK_READER ?? fileURLToPath(new URL('./reader.js', import.meta.url));

/** Whether a file is read by turning it into CSV, by its first bytes. Text with separators is read as it is. */
export function isOfAnotherFormat(head: Buffer): boolean {
  const start = head.subarray(0, 8).toString('latin1');
  return (
    start.startsWith('PK\u0003\u0004') ||
    start.startsWith('PAR1') ||
    start.startsWith('ARROW1') ||
    (head[0] === 0x1f && head[1] === 0x8b) ||
    (head.length > 8 && head.readUInt32LE(0) === 0xffffffff) ||
    /^\uFEFF?\s*[{[]/.test(head.toString('utf8'))
  );
}

/**
 * Reads a file of another format, or several that become one, into a CSV text at `out`, in a process of its own; or gives what has to be answered first.
 * Throws `UnusableFile` with a sentence where it cannot be read, and the reason of the signal where that is aborted.
 */
export function readFile(
  order: Order,
  room: Room,
  signal: AbortSignal,
): Promise<Exclude<Read, { problem: string }>> {
  return new Promise((resolve, reject) => {
    const child = fork(reader(), [], {
      execArgv: ['--max-old-space-size=4096'],
      stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
    });
    let said = '';
    child.stderr?.on('data', (chunk) => {
      said = (said + chunk).slice(-2000);
    });
    const end = (error: unknown) => {
      child.kill('SIGKILL');
      reject(error);
    };
    const abort = () => end(signal.reason);
    const late = setTimeout(() => end(new UnusableFile(tell('formats.tookTooLong'))), longest);
    const watch = setInterval(async () => {
      const { size } = await stat(order.out).catch(() => ({ size: 0 }));
      if (size > mostBytes)
        end(new UnusableFile(tell('formats.unpacksToTooMuch', { most: mostBytes / 1024 ** 2 })));
      await room.ensureNow().catch(end);
    }, look);
    signal.addEventListener('abort', abort, { once: true });
    child.once('message', (answer: Read) => {
      if ('problem' in answer) reject(new UnusableFile(answer.problem));
      else resolve(answer);
    });
    child.once('error', end);
    child.once('exit', (code, killed) => {
      clearTimeout(late);
      clearInterval(watch);
      signal.removeEventListener('abort', abort);
      // It has gone down with the file: what it was given is no sound one.
      if (code !== 0)
        reject(
          new UnusableFile(tell('formats.isDamaged'), { cause: new Error(`${killed ?? code}: ${said}`) }),
        );
      void rm(`${order.out}.parts`, { recursive: true, force: true }).catch(() => {});
      for (const { path } of order.files) void rm(`${path}.lines`, { force: true }).catch(() => {});
    });
    child.send(order);
  });
}
