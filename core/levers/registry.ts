import { registryOf } from '../kinds';
import type { LeverKind } from './lever-kind';
import { type PickLever, pick } from './pick';

/** The spec of any lever. */
export type Lever = PickLever;

// A registry holds kinds of different spec and position; each is only ever given its own.
// biome-ignore lint/suspicious/noExplicitAny: see above
type AnyLeverKind = LeverKind<any, any>;

export const leverKinds = registryOf<AnyLeverKind>('lever', [pick]);
