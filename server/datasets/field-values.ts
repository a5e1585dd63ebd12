import type { FieldValues } from '@sorvik/core/board/api-types';
import type { KeyValue } from '@sorvik/core/data/values';
import { english } from '@sorvik/core/messages/locale';
import { keyText } from '@sorvik/core/words/key-text';
import { LRUCache } from 'lru-cache';
import { freshFor, type Source } from '../sources/source';
import type { Field } from './store';

interface Listed {
  value: KeyValue;
  count: number;
  /** In lower case, for searching. */
  text: string;
}

const cache = new LRUCache<string, Listed[]>({
  maxSize: 2_000_000,
  sizeCalculation: (list) => list.length + 1,
});

/** All values of a field in their natural order with the rows that carry each; kept for as long as the version stands. */
async function allValues(
  source: Source,
  dataset: string,
  field: Field,
  signal: AbortSignal,
): Promise<Listed[]> {
  const key = JSON.stringify([dataset, source.version, source.scope, field.key]);
  const known = cache.get(key);
  if (known) return known;
  const list = (await source.values(field, signal)).map(
    ({ value, count }): Listed => ({
      value,
      count,
      text: keyText(value, english, field.type).toLowerCase(),
    }),
  );
  cache.set(key, list, source.lasting ? undefined : { ttl: freshFor });
  return list;
}

/** A page of a field's values, of those whose text contains `search`; those named in `first` come before all others. */
export async function fieldValues(
  source: Source,
  dataset: string,
  field: Field,
  {
    search,
    first,
    offset,
    limit,
  }: { search: string; first: readonly string[]; offset: number; limit: number },
  signal: AbortSignal,
): Promise<FieldValues> {
  const all = await allValues(source, dataset, field, signal);
  const wanted = search.trim().toLowerCase();
  const matching = wanted ? all.filter(({ text }) => text.includes(wanted)) : all;
  const early = new Set(first);
  const isEarly = ({ value }: Listed) => early.has(String(value));
  const found = early.size
    ? [...matching.filter(isEarly), ...matching.filter((each) => !isEarly(each))]
    : matching;
  return {
    total: all.length,
    found: found.length,
    values: found.slice(offset, offset + limit).map(({ value, count }) => ({ value, count })),
  };
}

/** Which of the values are not in the data. */
export async function absentValues(
  source: Source,
  dataset: string,
  field: Field,
  values: readonly KeyValue[],
  signal: AbortSignal,
): Promise<KeyValue[]> {
  const known = new Set((await allValues(source, dataset, field, signal)).map(({ value }) => value));
  return values.filter((value) => !known.has(value));
}
