import { registryOf } from '../data/kinds';
import { type ChoiceLever, choice } from './choice';
import { type ClockLever, clock } from './clock';
import type { LeverKind } from './lever-kind';
import { type LimitsLever, limits } from './limits';
import { type NumberLever, number } from './number';
import { type PickLever, pick } from './pick';
import { type SpanLever, span } from './span';
import { type SwitchLever, toggle } from './switch';
import { type WindowLever, windowKind } from './window';

/** The spec of any lever. */
export type Lever =
  | PickLever
  | ChoiceLever
  | NumberLever
  | SwitchLever
  | LimitsLever
  | SpanLever
  | WindowLever
  | ClockLever;

declare module '../board/specs' {
  interface Specs {
    lever: Lever;
  }
}

// A registry holds kinds of different spec and position; each is only ever given its own.
// biome-ignore lint/suspicious/noExplicitAny: see above
export type AnyLeverKind = LeverKind<any, any>;

export const leverKinds = registryOf<AnyLeverKind>('lever', [
  pick,
  choice,
  number,
  toggle,
  limits,
  span,
  windowKind,
  clock,
]);

export const kindOf = (lever: Lever): AnyLeverKind => leverKinds.get(lever.kind);
