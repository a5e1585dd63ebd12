import { registryOf } from '../kinds';
import type { ConditionKind } from './condition-kind';
import { type MemberCondition, member } from './member';

/** The spec of any condition. */
export type Condition = MemberCondition;

// A registry holds kinds of different specs; each is only ever given its own.
// biome-ignore lint/suspicious/noExplicitAny: see above
type AnyConditionKind = ConditionKind<any>;

export const conditionKinds = registryOf<AnyConditionKind>('condition', [member]);
