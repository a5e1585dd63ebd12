import type { FormulaEngine } from '@sorvik/formula/engine';
import type { SpecOf } from '../board/specs';
import type { Cube, CubeRequest } from '../data/cube';
import type { DatasetInfo, FieldInfo } from '../data/dataset';
import type { Dimension } from '../data/dimension';
import type { Kind } from '../data/kinds';
import type { KeyValue } from '../data/values';
import type { Locale } from '../messages/locale';
import type { Saying } from '../messages/say';
import type { ClockUnit, LocalTime } from './zone-time';

export const clearings = ['keep', 'start', 'empty'] as const;
/** What clearing a lever does: keeps the last position, goes back to the start, or empties it. */
export type Clearing = (typeof clearings)[number];

/** The position of each lever as it was moved, by lever id. A lever that is not named stands at its start. */
export type Positions = Readonly<Record<string, unknown>>;

/** What the data says of a lever: where its list, its bounds and its presets come from. */
export interface LeverFacts {
  dataset: DatasetInfo;
  /** What the kind asked for in `reads`. */
  cube?: Cube;
  /** A chart that it moves along stands in another order than that of its categories: places are told by number. */
  byPlace?: true;
  /** Of a list that stays on the server: which of the values held are known not to be in the data. */
  gone?: ReadonlySet<KeyValue>;
}

/** Where a lever really stands: a position that fits the data, and what had to be changed for that, in words. */
export interface Settled<P> {
  position: P;
  notice?: Saying;
}

/** The settled positions of a board's levers, by id; undefined for a lever that is not there. */
export type PositionLookup = (id: string) => unknown;

/** A board's levers by their ids. */
export type LeverLookup = (id: string) => SpecOf<'lever'> | undefined;

/** The levers of a board and where they stand: what conditions, guides and formulas see of them. */
export interface LeverContext {
  lever: LeverLookup;
  /** Where each lever stands, fitted to the data. */
  positionOf: PositionLookup;
  /** The day that is today, `YYYY-MM-DD`. */
  today: string;
  /** What reads formulas; null until it is there. */
  engine: FormulaEngine | null;
}

/** A dimension of a dataset that a lever stands on. */
export interface LeverSource extends Dimension {
  dataset: string;
}

/** What a touched mark, or a stretch of marks, gives: the values of its category or series, and its figure. */
export interface TouchValues {
  values: readonly KeyValue[];
  by: Dimension;
  figure: number;
}
export type TouchUse = 'replace' | 'add' | 'toggle';

/** The ends of an interval, both inside it. */
export interface Interval {
  from: KeyValue;
  to: KeyValue;
}

/** Consecutive places of an axis: the categories at its ends, and by number the first one and how many there are. */
export interface Stretch extends Interval {
  offset: number;
  length: number;
}

/** The steps an interval moves along: each has a number, and a first and a last value. */
export interface IntervalAxis {
  min: number;
  max: number;
  ordinal(value: KeyValue): number;
  from(ordinal: number): KeyValue;
  to(ordinal: number): KeyValue;
  text(value: KeyValue, locale: Locale): string;
  /** How many steps Page Up and Page Down are worth. */
  page: number;
}

/** What a new lever is made from. */
export interface LeverOrigin {
  id: string;
  name: string;
  dataset: DatasetInfo;
  /** Given when the kind fits fields. */
  dimension?: Dimension;
}

/**
 * One kind of lever. `S` is its spec in the board document, `P` its position. All functions are pure; positions are
 * never changed in place. What a lever can be used for is told by the abilities its kind has: nobody asks for a kind.
 */
export interface LeverKind<S, P> extends Kind {
  Spec: new () => S & object;
  /** What it is to an author: "a list to pick from". */
  noun: string;
  /** Which ways of clearing make sense. */
  clearings: readonly Clearing[];
  /** Which fields it can be made on; left out when it needs none. */
  fits?(field: FieldInfo): boolean;
  /** What it stands on when it is made without a field, for a kind that fits fields and needs none. */
  without?: string;
  make(origin: LeverOrigin): S;
  /** The dimension it stands on. */
  source?(spec: S): LeverSource | undefined;
  /** What it needs of the data; null when what is known of the fields is enough. */
  reads?(spec: S, dataset: DatasetInfo): CubeRequest | null;
  start(spec: S, facts: LeverFacts | undefined): P;
  /** The spec with another start. */
  startAt(spec: S, position: P): Partial<S>;
  /** True when the lever holds nothing, so cues that read it are at rest. */
  isEmpty(position: P): boolean;
  same(a: P, b: P): boolean;
  /** Where clearing takes it from `position`. */
  clear(spec: S, position: P, facts: LeverFacts | undefined): P;
  /** The position as values of one query parameter, and back. Text that cannot be read gives undefined. */
  toQuery(position: P): string[];
  fromQuery(spec: S, texts: readonly string[]): P | undefined;
  /** Fits a position to the data, and says what does not fit. Without facts it stays as it is. */
  settle(spec: S, position: P, facts: LeverFacts | undefined): Settled<P>;
  /** The position in a few words: "2 of 14", "65 %". */
  summary(spec: S, position: P, facts: LeverFacts | undefined, locale: Locale): string;

  /** What it says while it holds no value: "all". Left out, it says "none". */
  nothing?(spec: S, locale: Locale): string;

  /** It holds values of its source. */
  values?(position: P): readonly KeyValue[];
  /** It holds figures, each a part with a name. */
  figures?: {
    parts: readonly string[];
    read(position: P, part: string): number;
    /** True when its figures are shares of a range. */
    isShare(spec: S): boolean;
    /** Its bounds and step, by which it is moved from a plot. */
    bounds(spec: S, facts: LeverFacts | undefined): { min: number; max: number; step: number };
    move(spec: S, position: P, part: string, figure: number, facts: LeverFacts | undefined): P;
    text(spec: S, figure: number, locale: Locale): string;
  };
  /** It holds an interval of its source, null while it holds none, and the steps that its ends move along. */
  interval?(spec: S, position: P): Interval | null;
  intervalAxis?(spec: S, facts: LeverFacts | undefined): IntervalAxis | undefined;
  /** It holds a stretch of consecutive periods of its source. */
  stretch?(spec: S, position: P, facts: LeverFacts | undefined): Stretch | null;
  /**
   * What is to be asked for of an axis that is too long to be fetched: the stretch and at least as much on either side, the
   * same while it moves a little.
   */
  around?(spec: S, position: P, facts: LeverFacts | undefined): Interval | null;
  /** It is on or off. */
  isOn?(position: P): boolean;
  /** It names a side: 1 for the highest, -1 for the lowest. */
  side?(position: P): 1 | -1;
  /** It tells the time, and which unit of it counts. */
  now?(spec: S, position: P): { time: LocalTime; unit: ClockUnit } | null;
  /** Where it stands at an instant, ms since 1970, for one that moves by itself. */
  atInstant?(spec: S, position: P | undefined, real: number): P;
  /** With which unit of the time it moves. */
  changesWith?(spec: S): ClockUnit;
  /** Marks can be put into it. */
  touch?: {
    /** Whether it takes the category of a mark or its figure. */
    takes: 'category' | 'figure';
    /** It holds several marks at once. */
    several?: true;
    fits(spec: S, chart: { dataset: string; by: Dimension; split?: Dimension | undefined }): boolean;
    put(spec: S, position: P, touch: TouchValues, use: TouchUse, facts: LeverFacts | undefined): P;
  };
}
