import { FrameTask } from '../frame-task';

/** So long marks are on their way, ms. */
export const duration = 260;
let still: MediaQueryList | undefined;

/** Fast at first, slow at the end. */
const eased = (part: number) => 1 - (1 - part) ** 3;

/** One short motion at a time, a frame after the other. */
export class MarkMotion {
  private readonly frame = new FrameTask();

  /** Whether anything may move: not for whoever has asked for still pages. */
  static get wanted(): boolean {
    still ??= matchMedia('(prefers-reduced-motion: reduce)');
    return !still.matches;
  }

  /** Draws how far it is now, then in each frame until it is there; `share` goes from 0 to 1. */
  play(draw: (share: number) => void): void {
    this.stop();
    const began = performance.now();
    const next = () => {
      const part = Math.min(1, (performance.now() - began) / duration);
      if (part < 1) this.frame.set(next);
      draw(eased(part));
    };
    next();
  }

  stop(): void {
    this.frame.cancel();
  }
}
