import { createWriteStream, type WriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { finished } from 'node:stream/promises';

/** Lines of COPY's text format in files, one after the other, and how many rows each has. */
export interface LineFiles {
  path: string;
  rows: number;
}

/** So many rows are in a file. */
const rowsInFile = 500_000;
/** Where the disk takes them more slowly than the database does by so much, they are given up. */
const mostWaiting = 64 * 1024 * 1024;

/**
 * Keeps the lines that are sent to the database in files too: a copy by columns is made of them sooner than of what the
 * database would have to write again. Whatever goes wrong with them, they are given up and nothing else is.
 */
export class SentLines {
  private readonly files: LineFiles[] = [];
  private stream: WriteStream | null = null;
  private began = 0;
  private givenUp = false;

  /** `path` begins the names of the files. */
  constructor(private readonly path: string) {}

  /** Keeps lines; `rows` is how many there are with these. */
  write(lines: Buffer, rows: number): void {
    if (this.givenUp || !lines.length) return;
    if (!this.stream) {
      const path = `${this.path}.${this.files.length}.lines`;
      this.stream = createWriteStream(path);
      this.stream.on('error', () => this.giveUp());
      this.files.push({ path, rows: 0 });
      // What was sent before is in the files before.
      this.began = this.files.slice(0, -1).reduce((sum, file) => sum + file.rows, 0);
    }
    this.stream.write(lines);
    if (this.stream.writableLength > mostWaiting) this.giveUp();
    this.files.at(-1)!.rows = rows - this.began;
    if (rows - this.began < rowsInFile) return;
    this.stream.end();
    this.stream = null;
  }

  /** They cannot be read as they are: some need to be read as the database does. */
  giveUp(): void {
    this.givenUp = true;
    this.stream?.destroy();
    this.stream = null;
  }

  /** The files, once all is written; null where they were given up. */
  async end(): Promise<LineFiles[] | null> {
    const { stream } = this;
    if (stream) {
      stream.end();
      await finished(stream).catch(() => this.giveUp());
    }
    if (!this.givenUp) return this.files;
    await this.remove();
    return null;
  }

  async remove(): Promise<void> {
    this.giveUp();
    await removeLines(this.files);
  }
}

export const removeLines = async (files: readonly LineFiles[] | null): Promise<void> => {
  for (const { path } of files ?? []) await rm(path, { force: true });
};
