import { statfs } from 'node:fs/promises';

/** Kept free: without room for PostgreSQL's own log not even reading would go on. Four files of that log. */
export const reserve = 64 * 1024 * 1024;
/** Long work looks at the disk so many milliseconds apart. */
const apart = 100;

/** Has the code of a full disk, so that it is answered like one. */
class NoRoom extends Error {
  readonly code = 'ENOSPC';
}

/** The room on the disk of the database. Where that disk is not this machine's, there is always enough. */
export class Room {
  private looked = 0;

  constructor(private readonly folder: string | null) {}

  /** Bytes that can be stored. */
  async left(): Promise<number> {
    const disk = this.folder === null ? null : await statfs(this.folder).catch(() => null);
    return disk ? disk.bavail * disk.bsize - reserve : Number.POSITIVE_INFINITY;
  }

  /** Throws where there is no room for so many bytes, which are then to be stored. */
  async ensure(bytes = 0): Promise<void> {
    const left = await this.left();
    if (left < bytes) throw new NoRoom(`${bytes} bytes are to be stored, and there is room for ${left}`);
  }

  /** The same for work that asks again and again; most times it answers at once. */
  async ensureNow(): Promise<void> {
    const now = Date.now();
    if (now - this.looked < apart) return;
    this.looked = now;
    await this.ensure();
  }
}
