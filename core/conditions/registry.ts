import type { Measure } from '../board/measure';
import { type Registry, registryOf } from '../data/kinds';
import { type ClockCondition, clock } from './clock';
import { type AllCondition, type AnyCondition, combinedKinds, type NotCondition } from './combined';
import type { ConditionKind } from './condition-kind';
import { type FocusCondition, focus } from './focus';
import { type FormulaCondition, formula } from './formula';
import { type LatestCondition, latest } from './latest';
import { type MemberCondition, member } from './member';
import { type RankCondition, rank } from './rank';
import { type SegmentCondition, segment } from './segment';
import { type SpanCondition, span } from './span';
import { type PositionCondition, position, type ThresholdCondition, threshold } from './threshold';

/** The spec of any condition. */
export type Condition =
  | MemberCondition
  | RankCondition
  | ThresholdCondition
  | PositionCondition
  | SpanCondition
  | LatestCondition
  | ClockCondition
  | SegmentCondition
  | FocusCondition
  | FormulaCondition
  | AllCondition
  | AnyCondition
  | NotCondition;

declare module '../board/specs' {
  interface Specs {
    condition: Condition;
  }
}

// A registry holds kinds of different specs; each is only ever given its own.
// biome-ignore lint/suspicious/noExplicitAny: see above
type AnyConditionKind = ConditionKind<any>;

export const conditionKinds: Registry<AnyConditionKind> = registryOf<AnyConditionKind>('condition', [
  member,
  rank,
  threshold,
  position,
  span,
  latest,
  clock,
  segment,
  focus,
  formula,
  ...combinedKinds((kind) => conditionKinds.get(kind)),
]);

/** A condition by another measure than the chart's own, where it goes by one at all. */
export const byMeasure = (condition: Condition, measure: Measure): Condition =>
  conditionKinds.get(condition.kind).withMeasure?.(condition, measure) ?? condition;
