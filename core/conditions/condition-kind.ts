import type { Category } from '../board/category';
import type { Readings } from '../cube/readings';
import type { RowFilter } from '../cube/row-filter';
import type { FieldCut } from '../grain';
import type { Kind } from '../kinds';
import type { LeverAbility } from '../levers/abilities';
import type { Lever } from '../levers/registry';
import type { Stand } from '../levers/standing';
import type { Part } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';

export type LeverLookup = (id: string) => Lever | undefined;

/** What a condition sees of its levers. */
export interface LeverContext {
  lever: LeverLookup;
  /** Where each lever stands, fitted to the data. */
  stand: Stand;
}

/** What a condition sees of its chart. It knows readings, never shapes. */
export interface ConditionContext extends LeverContext {
  readings: Readings;
  by: Category;
}

/** What a condition says of each reading. */
export interface Evaluation {
  /** False while its levers hold nothing: the cue is at rest. */
  active: boolean;
  /** One byte per reading, 1 where the condition is met. */
  lit: Uint8Array;
  /** What has to be known to understand it: "a tie at the 3rd place". */
  note?: string;
}

/** One kind of condition. All functions are pure. */
export interface ConditionKind<S> extends Kind {
  Spec: new () => S & object;
  /** The levers it reads. */
  levers(spec: S): string[];
  /** What the levers it reads must be able to do; anything they can do is enough where this is left out. */
  needs?(spec: S): { lever: string; ability: LeverAbility }[];
  evaluate(spec: S, context: ConditionContext): Evaluation;
  /** Which cut of the rows it can filter on; null when it can only light marks. */
  filters(spec: S, lever: LeverLookup): FieldCut | null;
  /** The rows it keeps now; null while at rest, when it keeps all. */
  rowFilter(spec: S, context: LeverContext): RowFilter | null;
  /** Why it can't light marks of these categories, in words; null when it can. */
  unfit(spec: S, by: Category, lever: LeverLookup, words: Vocabulary): string | null;
  /** What it is like while at rest: "nothing is picked". Left out for conditions that never are. */
  restText?: string;
  /** What follows "Lights bars" or "Keeps only rows" in its sentence; words name their place from the cue on. */
  parts(spec: S, words: Vocabulary): Part[];
  /** The condition without a lever, which is to go: with the figure it held instead. Null: the sentence goes too. */
  without?(spec: S, lever: string, context: LeverContext): S | null;
}
