import type { Kind } from '../kinds';
import type { KeyValue } from '../values';

export const clearings = ['keep', 'start', 'empty'] as const;
/** What clearing a lever does: keeps the last position, goes back to the start, or empties it. */
export type Clearing = (typeof clearings)[number];

/** The position of each lever, by lever id. A lever that is not named stands at its start. */
export type Positions = Readonly<Record<string, unknown>>;

/** A value a lever's list offers, with how many rows carry it. */
export interface ListedValue {
  value: KeyValue;
  count: number;
}

/** A position that fits the data, and what had to be changed for that, in words. */
export interface Settled<P> {
  position: P;
  notice?: string;
}

/**
 * One kind of lever. `S` is its spec in the board document, `P` its position.
 * All functions are pure; positions are never changed in place.
 */
export interface LeverKind<S, P> extends Kind {
  Spec: new () => S & object;
  start(spec: S): P;
  /** True when its position is a set of a field's values: what marks stand for can be put into it. */
  holdsValues: boolean;
  /** True when the lever holds nothing, so cues that read it are at rest. */
  isEmpty(position: P): boolean;
  same(a: P, b: P): boolean;
  /** Where clearing takes it from `position`. */
  clear(spec: S, position: P): P;
  /** The position as values of one query parameter, and back. Unreadable text is dropped. */
  toQuery(position: P): string[];
  fromQuery(spec: S, texts: readonly string[]): P;
  /** Fits a position to the values the data really has, and says what no longer fits. */
  settle(spec: S, position: P, listed: readonly ListedValue[], text: (value: KeyValue) => string): Settled<P>;
  /** The position in a few words: "2 of 14". */
  summary(position: P, listed: number): string;
}
