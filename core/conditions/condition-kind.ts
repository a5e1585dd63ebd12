import type { Category } from '../board/chart';
import type { Readings } from '../cube/readings';
import type { RowFilter } from '../cube/row-filter';
import type { FieldCut } from '../grain';
import type { Kind } from '../kinds';
import type { Positions } from '../levers/lever-kind';
import type { Lever } from '../levers/registry';
import type { Part } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';

export type LeverLookup = (id: string) => Lever | undefined;

/** What a condition sees of its chart. It knows readings, never shapes. */
export interface ConditionContext {
  readings: Readings;
  by: Category;
  lever: LeverLookup;
  positions: Positions;
}

/** What a condition says of each reading. */
export interface Evaluation {
  /** False while its levers hold nothing: the cue is at rest. */
  active: boolean;
  /** One byte per reading, 1 where the condition is met. */
  lit: Uint8Array;
}

/** One kind of condition. All functions are pure. */
export interface ConditionKind<S> extends Kind {
  Spec: new () => S & object;
  /** The levers it reads. */
  levers(spec: S): string[];
  evaluate(spec: S, context: ConditionContext): Evaluation;
  /** Which cut of the rows it can filter on; null when it can only light marks. */
  filters(spec: S, lever: LeverLookup): FieldCut | null;
  /** The rows it keeps now; null while at rest, when it keeps all. */
  rowFilter(spec: S, context: Pick<ConditionContext, 'lever' | 'positions'>): RowFilter | null;
  /** Why it can't light marks of these categories, in words; null when it can. */
  unfit(spec: S, by: Category, lever: LeverLookup, words: Vocabulary): string | null;
  /** What follows "Lights bars" or "Keeps only rows" in its sentence. */
  parts(spec: S, words: Vocabulary): Part[];
}
