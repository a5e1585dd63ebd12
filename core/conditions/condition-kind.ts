import type { Category } from '../board/category';
import type { BoardEvent } from '../board/event';
import type { LeverAbility } from '../board/lever-ability';
import type { Look } from '../board/look';
import type { Measure } from '../board/measure';
import type { FieldInfo } from '../data/dataset';
import type { Dimension } from '../data/dimension';
import type { Kind } from '../data/kinds';
import type { Readings } from '../data/readings';
import type { RowFilter } from '../data/row-filter';
import type { KeyValue } from '../data/values';
import type { LeverContext, LeverLookup } from '../levers/lever-kind';
import type { Locale } from '../messages/locale';
import type { Saying } from '../messages/say';
import type { Part } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';

/** What a condition sees where it says in a legend what it lights. */
export interface LegendContext extends LeverContext {
  /** What the chart measures: of several, the one that counts is named. */
  chart?: ChartMeasures;
  /** How a figure of the chart's measure reads, or of another one; as a plain number where it is left out. */
  figure?(value: number, measure?: Measure, set?: boolean): string;
}

/** What a condition sees of its chart. It knows readings, never shapes. */
export interface ConditionContext extends LeverContext {
  /** The readings in view. */
  readings: Readings;
  by: Category;
  /** Where its rows are from. */
  dataset?: string;
  /** What parts the readings into series. */
  split?: Category | undefined;
  /** What the chart shows, what its marks stand along, and its further measures. */
  measure?: Measure | undefined;
  against?: Measure | undefined;
  also?: readonly { measure: Measure }[] | undefined;
  /** The readings of all the data, without filters or window. */
  whole?(): Readings;
  /** The fields of those rows. */
  fields?: readonly FieldInfo[];
  /** What another field has in the rows of each place, each value once; undefined where that is not known. */
  groupsOf?(dimension: Dimension): readonly (readonly KeyValue[])[] | undefined;
  /** The mark that the pointer or the keyboard is on; -1 or left out for none. */
  focus?: number;
  /** The series whose entry of the legend is pointed at; -1 or left out for none. */
  focusSeries?: number;
  /** The board's events. */
  events?: readonly BoardEvent[] | undefined;
  /** Days on which nobody works, besides Saturdays and Sundays. */
  holidays?: readonly string[] | undefined;
}

/** What marks stand for. */
export interface MarkKeys {
  by: Category;
  /** Where its rows are from. */
  dataset?: string;
  split?: Category | undefined;
  /** A second measure that they stand along instead of their categories. */
  against?: Measure | undefined;
  /** What the chart shows. */
  measure?: Measure | undefined;
  /** Further measures of it. */
  also?: readonly { measure: Measure }[] | undefined;
}

/** The measures of a chart: a condition goes by the first, or by the one it names. */
export type ChartMeasures = Pick<MarkKeys, 'measure' | 'also'>;

/** Whether a sentence has to say by which measure it goes: where it names one, or where the chart has several. */
export const saysMeasure = (named: Measure | undefined, chart: ChartMeasures | undefined): boolean =>
  named !== undefined || (chart?.also?.length ?? 0) > 0;

/** How things read where it is said why a mark is lit. */
export interface ClaimWords {
  locale: Locale;
  /** The measure: "total passengers". */
  measure(measure: Measure): string;
  /** Figures of a measure in one sentence: with as many decimals as tell those that differ from each other. */
  figures(measure: Measure, values: readonly number[]): string[];
  /** The category of a mark, its series, or a value of another dimension. */
  key(value: KeyValue, of?: 'series' | Dimension): string;
  lever(id: string): string;
}

/**
 * What a condition says of one reading, as plain values: the text is written from these alone, and tests hold them
 * against figures of their own.
 */
export interface Claim {
  /** The kind of condition that says it. */
  says: string;
  /** One of `verdicts`. */
  verdict: number;
}

/** One named step of a condition, a value per reading: for checking by eye. */
export interface WorkingsColumn {
  name: string;
  values: ArrayLike<number | string | boolean | null>;
}

/**
 * What a condition says of one reading. A null is never above, below, in or out of anything: then nothing is known, and
 * `not` knows no more. In this order, so that all of several is the least of them, and any the most.
 */
export const verdicts = { no: 0, unknown: 1, yes: 2 } as const;

/**
 * What a condition about the axis itself says between readings, by which lines are cut exactly: where along the places
 * it changes, and what it says in between. Place `i` reaches from `i` to `i + 1`; its reading stands in the middle.
 */
export interface AlongAxis {
  /** Rising. */
  cuts: readonly number[];
  /** At a point between two neighbouring readings of a series, by their indices. */
  verdict(along: number, before: number, after: number): number;
  variant?(along: number): number;
}

/** What things are called on a chart that a condition is offered for. */
export interface OfferNouns {
  /** One mark, and many: "bar", "the bars". */
  mark: string;
  marks: string;
  /** What its marks stand for: "quay", "month of day". */
  category: string;
}

/** What a condition says of each reading. */
export interface Evaluation {
  /** False while its levers hold nothing: the cue is at rest. */
  active: boolean;
  /** One of `verdicts` per reading. */
  verdict: Uint8Array;
  /** Which side or stretch each reading is on, an index into the kind's `variants`; for those that tell some apart. */
  variant?: Uint8Array;
  along?: AlongAxis;
  /** What has to be known to understand it: "a tie at the 3rd place". */
  note?: Saying;
}

/** One kind of condition. All functions are pure. */
export interface ConditionKind<S, C extends Claim = Claim> extends Kind {
  Spec: new () => S & object;
  /** The levers it reads. */
  levers(spec: S): string[];
  /** What the levers it reads must be able to do; anything they can do is enough where this is left out. */
  needs?(spec: S): { lever: string; ability: LeverAbility }[];
  evaluate(spec: S, context: ConditionContext): Evaluation;
  /** Which dimensions of the rows it can filter on; null when it can only light marks. */
  filters(spec: S, lever: LeverLookup): Dimension | null;
  /** A field, other than those that marks stand for, by whose values it lights them: it has to be in the cube. */
  groups?(spec: S, keys: MarkKeys, lever: LeverLookup): Dimension[];
  /** It judges categories by their figures: a chart can keep only those that meet it, and leave or join the others. */
  keepsCategories?: true;
  /** The rows it keeps now; null while at rest, when it keeps all. */
  rowFilter(spec: S, context: LeverContext): RowFilter | null;
  /** Why it can't light marks of these categories, in words; null when it can. */
  unfit(spec: S, keys: MarkKeys, lever: LeverLookup, words: Vocabulary): string | null;
  /** What its sentence can also say, as a spec that says it. */
  more?(spec: S, chart: MarkKeys & { measure: Measure }): { text: string; spec: S }[];
  /** True when it is put as a formula: what reads those has to be there. */
  readsFormulas?(spec: S): boolean;
  /** True when it goes by readings that are not in view. */
  looksBeyondView?(spec: S): boolean;
  /** True when it depends on the events of the board. */
  readsEvents?(spec: S): boolean;
  /** The same condition when stretches begin with other events: by id, null for the first one. */
  restretched?(spec: S, before: readonly (string | null)[], after: readonly (string | null)[]): S;
  /** The same by another measure, where it names none and goes by the chart's own. */
  withMeasure?(spec: S, measure: Measure): S;
  /** Measures it compares by besides the chart's own. */
  measures?(spec: S): Measure[];
  /** The sides or stretches it tells apart, in words; each can have a look of its own. */
  variants?(spec: S, words: Vocabulary): string[];
  /** The looks that its sides or stretches have of themselves, before those that a cue gives them. */
  sideLooks?(spec: S, words: Pick<Vocabulary, 'events'>): (Look | undefined)[];
  /** What it lights now, in a few words for a legend: "the 3 highest"; one text for each of its variants. */
  legend(spec: S, context: LegendContext, words: Vocabulary): string[];
  /** What it is like while at rest: "nothing is picked". Left out for conditions that never are. */
  restText?: Saying;
  /** How it is offered beside others, and a usual spec of it; `need` gives the id of a lever that can do something. */
  usual?: {
    text(): string;
    /** Only for marks that stand for dates. */
    forDates?: true;
    /** Only on a board that lists events. */
    forEvents?: true;
    /**
     * How it is offered by itself: what it is good for, and what follows "Lights" (left out: the marks and `text`). Left
     * out where it is offered with levers and lines of its own (`core/edit/offers`).
     */
    offer?: { use(): string; text?(nouns: OfferNouns): string };
    make(need: (ability: LeverAbility) => string): S;
  };
  /**
   * What follows "Lights bars" or "Keeps only rows" in its sentence; words name their place from the condition on. On a
   * chart of several measures it names the one that it goes by.
   */
  parts(spec: S, words: Vocabulary, chart?: ChartMeasures): Part[];
  /** True when it depends on what is pointed at. */
  readsFocus?(spec: S): boolean;
  /** Why a reading meets it or does not. */
  claim(spec: S, context: ConditionContext, index: number): C;
  /** The same in words, with numbers: "rank 2 of 14 by passengers (48,210), within Count 3". */
  claimText(claim: C, words: ClaimWords): string;
  /** The steps by which it comes to its verdicts. */
  workings?(spec: S, context: ConditionContext): WorkingsColumn[];
  /** The condition without a lever, which is to go: with the figure it held instead. Null: the sentence goes too. */
  without?(spec: S, lever: string, context: LeverContext): S | null;
}

/**
 * What a condition says at a point between two neighbouring readings of a series. One that knows nothing of the axis
 * holds there when it holds at both.
 */
export const betweenReadings = (
  { along, verdict }: Evaluation,
  at: number,
  before: number,
  after: number,
): number => along?.verdict(at, before, after) ?? Math.min(verdict[before]!, verdict[after]!);

/** The measure that a condition goes by: the one it names, or the chart's own. */
export const measureOf = (named: Measure | undefined, { measure }: Pick<MarkKeys, 'measure'>): Measure =>
  named ?? measure ?? { aggregate: 'count' };
