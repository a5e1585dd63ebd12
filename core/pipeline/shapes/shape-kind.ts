import type { Kind } from '../../data/kinds';
import type { Readings } from '../../data/readings';
import type { Edges } from '../../forms/edges';
import type { Scene } from '../../forms/scene';
import type { CoreMessage } from '../../messages/say';

/** Where the keyboard goes from a mark. */
export type Step = 'next' | 'previous' | 'up' | 'down' | 'first' | 'last' | 'far next' | 'far previous';

/** What marks of one shape are to the pointer and the keyboard. */
export interface ShapeKind extends Kind {
  /** The mark at a point of the scene, px, or -1 on empty ground. */
  markAt(scene: Scene, readings: Readings, x: number, y: number): number;
  /** The mark nearest to a point, whether or not the point is on it; -1 when there are none. */
  nearest(scene: Scene, readings: Readings, x: number, y: number): number;
  /** The mark that a key leads to from another one (-1: from none); -1 when there are none. */
  step(scene: Scene, readings: Readings, from: number, step: Step): number;
  /** Where a mark ends on a value axis, which is upright or lies; left out for marks that do not end on one. */
  end?(scene: Scene, mark: number, upright: boolean): Edges;
  /** What of a lit mark no figure of another one is to lie over; left out where figures have places of their own. */
  kept?(scene: Scene, mark: number): Edges;
  /** Whether a text of a width, px, lies within a mark; left out, it never does. */
  holds?(scene: Scene, mark: number, width: number): boolean;
  /** Where marks are that are not drawn although they have a value, and why; left out, beyond the axis. */
  beyond?: CoreMessage;
}

/** How far the keys for pages go. */
export const far = 10;

/** Where each key leads in a list of marks; beyond its ends for who calls to hold or to go around. */
export const steps: Record<Step, (at: number, last: number) => number> = {
  next: (at) => at + 1,
  down: (at) => at + 1,
  previous: (at) => at - 1,
  up: (at) => at - 1,
  first: () => 0,
  last: (_at, last) => last,
  'far next': (at) => at + far,
  'far previous': (at) => at - far,
};
