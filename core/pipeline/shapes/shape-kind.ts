import type { Kind } from '../../data/kinds';
import type { Readings } from '../../data/readings';
import type { Scene } from '../../forms/scene';

/** Where the keyboard goes from a mark. */
export type Step = 'next' | 'previous' | 'up' | 'down' | 'first' | 'last' | 'far next' | 'far previous';

/** What marks of one shape are to the pointer and the keyboard. */
export interface ShapeKind extends Kind {
  /** The mark at a point of the scene, px, or -1 on empty ground. */
  markAt(scene: Scene, readings: Readings, x: number, y: number): number;
  /** The mark nearest to a point, whether or not the point is on it; -1 when there are none. */
  nearest(scene: Scene, readings: Readings, x: number, y: number): number;
  /** What is not drawn because there is too much of it, and what to do; asked for only where something is left out. */
  leftOut(scene: Scene, readings: Readings): string;
  /** The mark that a key leads to from another one (-1: from none); -1 when there are none. */
  step(scene: Scene, readings: Readings, from: number, step: Step): number;
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
