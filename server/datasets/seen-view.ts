import type { DatasetView } from '@sorvik/core/board/api-types';
import { LRUCache } from 'lru-cache';
import { freshFor, type Source } from '../sources/source';
import type { Sources } from '../sources/sources';
import type { Field } from './store';

/** What is known of rows: how many there are, and the profile of each field. */
type Known = Pick<DatasetView, 'rows' | 'fields'>;

/** How many rows there are for whoever asks. */
export async function rowsOf(source: Source, signal?: AbortSignal): Promise<number> {
  const count = await source.aggregate(
    { keys: [], partials: [{ aggregate: 'count' }], kept: [], limit: 1 },
    signal,
  );
  return Number(count.getChildAt(0)?.get(0) ?? 0);
}

/**
 * Datasets as they are for whoever sees only some of their rows: what is said of the rows and of their fields is said of those alone,
 * and what an import says of the others is left out.
 */
export class SeenViews {
  private readonly known = new LRUCache<string, Promise<Known>>({ max: 1000 });

  constructor(private readonly sources: Sources) {}

  async of(view: DatasetView): Promise<DatasetView> {
    const { source, fields } = await this.sources.of(view.id);
    if (!source.scope) return view;
    const name = JSON.stringify([view.id, source.version, source.scope, fields.map(({ key }) => key)]);
    let known = this.known.get(name);
    if (!known) {
      known = this.look(view, source, fields);
      this.known.set(name, known, source.lasting ? {} : { ttl: freshFor });
      known.catch(() => this.known.delete(name));
    }
    const { copy: _copy, schedule: _schedule, behind: _behind, ...rest } = view;
    return {
      ...rest,
      ...(await known),
      rejected: 0,
      source: { ...view.source, file: '', notes: [] },
      restricted: true,
    };
  }

  private async look(view: DatasetView, source: Source, fields: readonly Field[]): Promise<Known> {
    const profiles = await Promise.all(fields.map((field) => source.describe(field)));
    const profileOf = new Map(fields.map(({ key }, i) => [key, profiles[i]!]));
    return {
      rows: await rowsOf(source),
      fields: view.fields.map((field) => ({ ...field, profile: profileOf.get(field.key) ?? null })),
    };
  }
}
