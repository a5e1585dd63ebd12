import type { Database } from './client';

/** Texts in their natural order, "2" before "10", which only our own database knows. */
export async function inNaturalOrder({ readers }: Database, texts: readonly string[]): Promise<string[]> {
  const { rows } = await readers.query({
    text: 'SELECT text FROM unnest($1::text[]) AS text ORDER BY text COLLATE "sorvik"."natural_order", text',
    values: [texts],
    rowMode: 'array',
  });
  return rows.map(([text]) => text as string);
}
