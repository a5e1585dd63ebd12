import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { NoPicture, PainterData, PictureOrder } from './painter-order';

/** Threads at a time, which end when they have had nothing to do for so long, ms. */
const mostThreads = 2;
const idle = 60_000;
/** Pictures that may wait for a thread, and how long one may take, ms. */
const mostWaiting = 200;
const longest = 30_000;

/** The bundle of `painter.ts`: beside that of the server, or where tests have it made. */
const painter = () => process.env.SORVIK_PAINTER ?? fileURLToPath(new URL('./painter.js', import.meta.url));

/** More pictures are asked for at once than can be made. */
export class TooManyPictures extends Error {}

/** One takes longer than it may. */
export class SlowPicture extends Error {}

/** Threads that draw pictures, made when the first one is wanted. */
export class Painters {
  private pool: Piscina<PictureOrder, Uint8Array | NoPicture> | null = null;

  /** Makes a picture. Throws `TooManyPictures` or `SlowPicture`, and the reason of the signal where that is aborted. */
  async paint(order: PictureOrder, wanted: AbortSignal): Promise<Uint8Array | NoPicture> {
    const file = painter();
    this.pool ??= new Piscina({
      filename: file,
      minThreads: 0,
      maxThreads: mostThreads,
      idleTimeout: idle,
      maxQueue: mostWaiting,
      workerData: { theme: join(dirname(file), 'picture.css') } satisfies PainterData,
    });
    if (this.pool.queueSize >= mostWaiting) throw new TooManyPictures();
    const late = AbortSignal.timeout(longest);
    try {
      return await this.pool.run(order, { signal: AbortSignal.any([wanted, late]) });
    } catch (error) {
      if (wanted.aborted) throw wanted.reason;
      if (late.aborted) throw new SlowPicture();
      throw error;
    }
  }

  async close(): Promise<void> {
    await this.pool?.destroy();
    this.pool = null;
  }
}
