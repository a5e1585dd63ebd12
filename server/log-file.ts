import { type FileHandle, open, rename, rm } from 'node:fs/promises';

const largest = 10 * 1024 * 1024;
/** Files that are kept besides the one that is written. */
const kept = 3;
/** Lines that may wait for the disk; beyond that they are dropped, and how many is said. */
const mostWaiting = 2 * 1024 * 1024;
const patience = 5000;

/**
 * Where the log is written: a file that only its owner can read, turned over when it is full. A disk that takes no more
 * never stops the server: lines are dropped until there is room again.
 */
export class LogFile {
  private waiting: string[] = [];
  private waitingBytes = 0;
  private dropped = 0;
  private file: FileHandle | null = null;
  private size = 0;
  private busy: Promise<void> | null = null;
  private restUntil = 0;

  constructor(private readonly path: string) {}

  write(line: string): void {
    if (this.waitingBytes > mostWaiting) {
      this.dropped++;
      return;
    }
    this.waiting.push(line);
    this.waitingBytes += line.length;
    this.busy ??= this.drain().finally(() => {
      this.busy = null;
    });
  }

  /** Ends when all that waits is written, or cannot be. */
  async close(): Promise<void> {
    await this.busy;
    await this.file?.close().catch(() => {});
    this.file = null;
  }

  private async drain(): Promise<void> {
    while (this.waiting.length) {
      const lines = this.waiting;
      this.waiting = [];
      this.waitingBytes = 0;
      if (Date.now() < this.restUntil) {
        this.dropped += lines.length;
        continue;
      }
      try {
        await this.append(lines);
      } catch {
        // The disk is full, or the file is not ours any more: later again.
        this.dropped += lines.length;
        this.restUntil = Date.now() + patience;
        await this.file?.close().catch(() => {});
        this.file = null;
      }
    }
  }

  private async append(lines: string[]): Promise<void> {
    if (!this.file) {
      this.file = await open(this.path, 'a', 0o600);
      await this.file.chmod(0o600);
      this.size = (await this.file.stat()).size;
    }
    const missed = this.dropped
      ? `${JSON.stringify({ level: 40, time: Date.now(), msg: `${this.dropped} lines were not written: there was no room` })}\n`
      : '';
    const text = missed + lines.join('');
    await this.file.appendFile(text);
    this.dropped = 0;
    this.size += Buffer.byteLength(text);
    if (this.size > largest) await this.turnOver();
  }

  private async turnOver(): Promise<void> {
    await this.file?.close();
    this.file = null;
    await rm(`${this.path}.${kept}`, { force: true });
    for (let n = kept - 1; n >= 1; n--)
      await rename(`${this.path}.${n}`, `${this.path}.${n + 1}`).catch(() => {});
    await rename(this.path, `${this.path}.1`).catch(() => {});
  }
}

/** What of an error goes into the log: where it was thrown and why, never the values that a query was given. */
export function errorForLog(error: unknown): Record<string, unknown> {
  if (typeof error !== 'object' || error === null) return { message: String(error).slice(0, 300) };
  const { name, message, code, stack, cause } = error as Error & { code?: unknown };
  return {
    type: name,
    code,
    // The ORM writes all parameters behind the query: documents among them.
    message: String(message).split('\nparams:')[0]!.slice(0, 300),
    stack: String(stack)
      .split('\n')
      .filter((line) => line.startsWith('    at '))
      .slice(0, 12)
      .join('\n'),
    ...(cause ? { cause: errorForLog(cause) } : {}),
  };
}
