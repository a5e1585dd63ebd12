import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { perFrame } from './per-frame';

/** A part of a drawing, px. */
export interface Part {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** What is drawn beyond what is in sight, px: a little scrolling needs nothing new. */
const beyond = 400;

/**
 * Which part of a drawing that is larger than its room is in sight. How far it is scrolled is known as it is told: asking
 * for it while painting would lay out the whole page.
 */
export class Sight {
  private left = 0;
  private top = 0;
  private readonly scroller: Element | null;
  private readonly followers = new Set<() => void>();
  private readonly moved = perFrame(() => {
    const { scrollLeft = 0, scrollTop = 0 } = this.scroller ?? {};
    this.left = scrollLeft;
    this.top = scrollTop;
    for (const follow of this.followers) follow();
  });

  constructor(svg: SVGSVGElement) {
    this.scroller = svg.parentElement;
    this.scroller?.addEventListener('scroll', this.moved, { passive: true });
  }

  /** How far it is scrolled sideways, px. */
  get scrolledBy(): number {
    return this.left;
  }

  /** What is in sight of a drawing, `around` it with what a little scrolling would bring. */
  of({ scene, input }: ChartResult, around = false): Part {
    const more = around ? beyond : 0;
    const left = Math.max(0, Math.min(this.left, scene.width - 1) - more);
    const top = Math.max(0, Math.min(this.top, scene.height - 1) - more);
    return {
      left,
      top,
      width: Math.min(scene.width, this.left + (input.width || scene.width) + more) - left,
      height: Math.min(scene.height, this.top + (input.height || scene.height) + more) - top,
    };
  }

  /** Calls back when it has moved; gives what ends that. */
  follow(act: () => void): () => void {
    this.followers.add(act);
    return () => this.followers.delete(act);
  }

  stop(): void {
    this.moved.cancel();
    this.scroller?.removeEventListener('scroll', this.moved);
  }
}

/** Whether a part lies within another. */
export const lies = (inner: Part, outer: Part): boolean =>
  inner.left >= outer.left &&
  inner.top >= outer.top &&
  inner.left + inner.width <= outer.left + outer.width &&
  inner.top + inner.height <= outer.top + outer.height;

/** More texts than this are only drawn where they are in sight: each costs the page as much as some hundred bars on a canvas. */
export const manyTexts = 400;

/** Whether a text can be seen in a part. */
export const isTextIn = ({ x, y }: { x: number; y: number }, { left, top, width, height }: Part): boolean =>
  y >= top && y <= top + height && x >= left - beyond && x <= left + width + beyond;
