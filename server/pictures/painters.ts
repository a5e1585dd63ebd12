import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { NoPicture, PainterData, PictureOrder } from './painter-order';

/** What a server has for drawing. */
export interface PainterLimits {
  /** Threads at a time, which end when they have had nothing to do for so long, ms. */
  threads: number;
  idle: number;
  /** Pictures that may wait for a thread, and how long one may take with its waiting, ms. */
  waiting: number;
  longest: number;
  /** The bundle of `painter.ts`: beside that of the server, or where tests have it made. */
  file: string;
}

const usualLimits = (): PainterLimits => ({
  threads: 2,
  idle: 60_000,
  waiting: 200,
  longest: 30_000,
  file: process.env.SORVIK_PAINTER ?? fileURLToPath(new URL('./painter.js', import.meta.url)),
});

/** More pictures are asked for at once than can be made. */
export class TooManyPictures extends Error {}

/** One takes longer than it may. */
export class SlowPicture extends Error {}

/** Threads that draw pictures, made when the first one is wanted. */
export class Painters {
  private pool: Piscina<PictureOrder, Uint8Array | NoPicture> | null = null;
  private readonly limits: PainterLimits;

  constructor(limits: Partial<PainterLimits> = {}) {
    this.limits = { ...usualLimits(), ...limits };
  }

  /** Makes a picture. Throws `TooManyPictures` or `SlowPicture`, and the reason of the signal where that is aborted. */
  async paint(order: PictureOrder, wanted: AbortSignal): Promise<Uint8Array | NoPicture> {
    const { file, threads, idle, waiting, longest } = this.limits;
    this.pool ??= new Piscina({
      filename: file,
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: idle,
      maxQueue: waiting,
      workerData: { theme: join(dirname(file), 'picture.css') } satisfies PainterData,
    });
    if (this.pool.queueSize >= waiting) throw new TooManyPictures();
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
