import type { FieldProfile } from '@sorvik/core/data/dataset';
import type { Dimension } from '@sorvik/core/data/dimension';
import type { RecordBatch } from 'apache-arrow';
import type { Field } from '../datasets/store';
import { NotExact } from './copies/copy-source';
import { TookTooLong } from './copies/engine';
import type { Bins, CountedValue, Question, Source } from './source';

/** A faster source where it answers, and the one that is always right where it does not, or cannot any more. */
export class BestSource implements Source {
  constructor(
    private readonly fast: Source,
    private readonly sure: Source,
    /** Hears why the faster one did not answer. */
    private readonly onFailure: (error: Error) => void,
  ) {}

  get version(): number {
    return this.sure.version;
  }

  get scope(): string {
    return this.sure.scope;
  }

  get lasting(): boolean {
    return this.sure.lasting;
  }

  answers(): boolean {
    return true;
  }

  private async first<T>(ask: (source: Source) => Promise<T>, signal?: AbortSignal): Promise<T> {
    try {
      return await ask(this.fast);
    } catch (error) {
      // The other one would take longer still.
      if (signal?.aborted || error instanceof TookTooLong) throw error;
      if (!(error instanceof NotExact)) this.onFailure(error as Error);
      return ask(this.sure);
    }
  }

  aggregate(question: Question, signal?: AbortSignal): Promise<RecordBatch> {
    if (!this.fast.answers(question)) return this.sure.aggregate(question, signal);
    return this.first((source) => source.aggregate(question, signal), signal);
  }

  combinations(keys: readonly Dimension[], signal?: AbortSignal): Promise<number> {
    return this.first((source) => source.combinations(keys, signal), signal);
  }

  describe(field: Field, signal?: AbortSignal): Promise<FieldProfile> {
    return this.first((source) => source.describe(field, signal), signal);
  }

  describeMore(
    field: Field,
    before: { profile: FieldProfile; places: number },
    signal?: AbortSignal,
  ): Promise<FieldProfile> {
    return this.first(
      (source) => source.describeMore?.(field, before, signal) ?? source.describe(field, signal),
      signal,
    );
  }

  values(field: Field, signal?: AbortSignal): Promise<CountedValue[]> {
    return this.first((source) => source.values(field, signal), signal);
  }

  commonest(field: Field, most: number, signal?: AbortSignal): Promise<CountedValue[]> {
    return this.first((source) => source.commonest(field, most, signal), signal);
  }

  bins(field: Field, bins: Bins, signal?: AbortSignal): Promise<number[]> {
    return this.first((source) => source.bins(field, bins, signal), signal);
  }

  rows(offset: number, limit: number, signal?: AbortSignal): Promise<unknown[][]> {
    return this.first((source) => source.rows(offset, limit, signal), signal);
  }
}
