import type { FieldValues } from '@sorvik/core/board/api-types';
import type { KeyValue } from '@sorvik/core/data/values';
import { keyText } from '@sorvik/core/words/key-text';
import { LRUCache } from 'lru-cache';
import type pg from 'pg';
import { quoted } from '../db/client';

interface Listed {
  value: KeyValue;
  count: number;
  /** In lower case, for searching. */
  text: string;
}

import { english } from '@sorvik/core/messages/locale';
import type { Field } from './store';

const cache = new LRUCache<string, Listed[]>({
  maxSize: 2_000_000,
  sizeCalculation: (list) => list.length + 1,
});

/** All values of a field in their natural order with the rows that carry each; kept for as long as the version stands. */
async function allValues(
  client: pg.ClientBase,
  dataset: { id: string; version: number },
  table: string,
  field: Field,
): Promise<Listed[]> {
  const key = JSON.stringify([dataset.id, dataset.version, field.key]);
  const known = cache.get(key);
  if (known) return known;
  const order = field.type === 'text' ? 'v COLLATE "sorvik"."natural_order", v' : 'v';
  const { rows } = await client.query(
    `SELECT v, n FROM (SELECT ${quoted(field.key)} AS v, count(*)::int AS n FROM ${table} WHERE ${quoted(field.key)} IS NOT NULL GROUP BY 1) AS listed ORDER BY ${order}`,
  );
  const list = rows.map(({ v, n }): Listed => {
    const value = v as KeyValue;
    return { value, count: n as number, text: keyText(value, english, field.type).toLowerCase() };
  });
  cache.set(key, list);
  return list;
}

/** A page of a field's values, of those whose text contains `search`; those named in `first` come before all others. */
export async function fieldValues(
  client: pg.ClientBase,
  dataset: { id: string; version: number },
  table: string,
  field: Field,
  {
    search,
    first,
    offset,
    limit,
  }: { search: string; first: readonly string[]; offset: number; limit: number },
): Promise<FieldValues> {
  const all = await allValues(client, dataset, table, field);
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
  client: pg.ClientBase,
  dataset: { id: string; version: number },
  table: string,
  field: Field,
  values: readonly KeyValue[],
): Promise<KeyValue[]> {
  const known = new Set((await allValues(client, dataset, table, field)).map(({ value }) => value));
  return values.filter((value) => !known.has(value));
}
