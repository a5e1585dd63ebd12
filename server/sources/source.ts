import type { CubeRequest } from '@sorvik/core/data/cube';
import type { FieldProfile } from '@sorvik/core/data/dataset';
import type { Dimension } from '@sorvik/core/data/dimension';
import type { Kept } from '@sorvik/core/data/kept';
import type { KeyValue } from '@sorvik/core/data/values';
import type { RecordBatch } from 'apache-arrow';
import type { Field } from '../datasets/store';

/** What is asked of the rows: partial aggregates for each combination of the keys, of the rows that are kept. */
export interface Question extends CubeRequest {
  kept: readonly Kept[];
  /** More combinations than this are not computed to their end: one more than it comes back at most. */
  limit: number;
}

/** A value of a field, and how many rows carry it. */
export interface CountedValue {
  value: KeyValue;
  count: number;
}

/** How the rows of a field lie in equal parts of a range: part `i` begins at `low + i * width`; the last takes its end. */
export interface Bins {
  low: number;
  width: number;
  count: number;
}

/**
 * What the rows of a dataset come from. However it keeps them, the answers are those of PostgreSQL: whole figures to the
 * last bit, sums of decimals but for the order in which they are added up. Each call ends early when its signal is
 * aborted, down to whatever computes it; a source that a dataset is not on any more throws `OtherVersion`.
 */
export interface Source {
  /** Which state of the rows it answers for. */
  readonly version: number;
  /** Names the rows that it answers for: the same for whoever may see the same; empty where it is all of them. */
  readonly scope: string;
  /** Whether what it says is so for as long as the version stands; else its rows may change at any time. */
  readonly lasting: boolean;
  /** Whether it answers a question just as PostgreSQL does; what it does not is asked there. */
  answers(question: Question): boolean;
  /** One row for each combination that occurs: columns of keys, then of partial aggregates. */
  aggregate(question: Question, signal?: AbortSignal): Promise<RecordBatch>;
  /** How many combinations of keys occur; where counting them all takes long, an estimate. */
  combinations(keys: readonly Dimension[], signal?: AbortSignal): Promise<number>;
  /** What is known of a field over all rows. */
  describe(field: Field, signal?: AbortSignal): Promise<FieldProfile>;
  /** The same where rows with places from here on have come since a profile was made; left out where that is no sooner. */
  describeMore?(
    field: Field,
    before: { profile: FieldProfile; places: number },
    signal?: AbortSignal,
  ): Promise<FieldProfile>;
  /** All values of a field that there are, in their natural order. */
  values(field: Field, signal?: AbortSignal): Promise<CountedValue[]>;
  /** The values that most rows carry, most first; equals in the order of the values. */
  commonest(field: Field, most: number, signal?: AbortSignal): Promise<CountedValue[]>;
  /** How many rows lie in each part of a range. */
  bins(field: Field, bins: Bins, signal?: AbortSignal): Promise<number[]>;
  /** Rows in the order of the file. */
  rows(offset: number, limit: number, signal?: AbortSignal): Promise<unknown[][]>;
}

/** What a source said whose rows may change at any time is said again for so long, ms. */
export const freshFor = 60_000;

/** The rows are in another state than the one that was asked for. */
export class OtherVersion extends Error {
  constructor(readonly version: number) {
    super(`The rows are at version ${version}.`);
  }
}

/** A total is larger than a number can be. */
export class NoFigure extends Error {}

/** What is to be kept is not of the type of its field. */
export class UnfitValues extends Error {}
