import { once } from 'node:events';
import { createWriteStream } from 'node:fs';

const special = /[",\n\r]/;
const cellText = (cell: string | null): string =>
  cell === null ? '' : special.test(cell) || cell.trim() !== cell ? `"${cell.replaceAll('"', '""')}"` : cell;

/** Writes rows to a file as CSV; waits for the disk where it is slower. */
export class CsvWriter {
  private readonly stream;
  private waiting = '';
  rows = 0;

  constructor(path: string) {
    this.stream = createWriteStream(path);
  }

  async write(cells: readonly (string | null)[]): Promise<void> {
    this.waiting += `${cells.map(cellText).join(',')}\n`;
    this.rows++;
    if (this.waiting.length > 256 * 1024) await this.flush();
  }

  private async flush(): Promise<void> {
    const text = this.waiting;
    this.waiting = '';
    if (text && !this.stream.write(text)) await once(this.stream, 'drain');
  }

  async end(): Promise<void> {
    await this.flush();
    this.stream.end();
    await once(this.stream, 'finish');
  }
}
