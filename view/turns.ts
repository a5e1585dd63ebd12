import { allSteps } from '@sorvik/core/data/all-steps';
import { inSteps } from './in-steps';

/**
 * One painting: while a drag goes on it is `passing`; `follow` where something else than a gesture on the chart has moved.
 * Where a lever has moved it is `urgent`: what little that takes is painted in the same task.
 */
export interface Turn {
  passing: boolean;
  follow: boolean;
  urgent: boolean;
}

/**
 * Paintings one after the other. One that is in steps is finished before the next begins: else a drag that is faster would
 * never show anything; of those that come meanwhile the newest is next.
 */
export class Turns {
  /** Breaks off the painting that is under way; null while none is. */
  private underWay: (() => void) | null = null;
  private next: Turn | null = null;

  /** `take` paints: it is asked whether to do so in steps when its turn comes. */
  constructor(
    private readonly take: (turn: Turn) => { steps: Generator<void, void>; slowly: boolean } | null,
  ) {}

  request(turn: Turn): void {
    if (this.underWay) {
      this.next = { ...turn, follow: turn.follow || (this.next?.follow ?? false) };
      return;
    }
    const painting = this.take(turn);
    if (!painting) return;
    if (!painting.slowly) {
      allSteps(painting.steps);
      return;
    }
    let ended = false;
    const breakOff = inSteps(painting.steps, turn.urgent, () => {
      ended = true;
      this.underWay = null;
      const { next } = this;
      this.next = null;
      if (next) this.request(next);
    });
    if (!ended) this.underWay = breakOff;
  }

  /** Gives up what is under way, and what was to come after it. */
  breakOff(): void {
    this.underWay?.();
    this.underWay = null;
    this.next = null;
  }
}
