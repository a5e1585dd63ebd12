import type { FieldShape } from '@sorvik/core/board/api-types';
import { isNumeric, isTemporal } from '@sorvik/core/data/values';
import { firstGrain } from '@sorvik/core/edit/defaults';
import { english } from '@sorvik/core/messages/locale';
import { keyText } from '@sorvik/core/words/key-text';
import { numberText } from '@sorvik/core/words/number-text';
import type pg from 'pg';
import { quoted } from '../db/client';
import { cutText } from '../http/well-formed';
import { tell } from '../tell';
import type { Field } from './store';

const binCount = 20;
const topCount = 8;

async function ranges(client: pg.ClientBase, table: string, field: Field): Promise<FieldShape> {
  const { min, max } = field.profile!;
  const low = Number(min);
  const high = Number(max);
  const column = quoted(field.key);
  if (min === null || low === high)
    return {
      kind: 'ranges',
      bins: min === null ? [] : [{ label: numberText(low, english), count: field.profile!.count }],
      others: 0,
    };
  const whole = field.type === 'integer';
  // Bins of whole numbers hold as many of them each: else some would seem rarer than others.
  const width = whole ? Math.ceil((high - low + 1) / binCount) : (high - low) / binCount;
  const bins = whole ? Math.ceil((high - low + 1) / width) : binCount;
  const found = await client.query(
    `SELECT least(width_bucket(${column}::float8, $1::float8, $2::float8, $3::int), $3::int) AS bin, count(*) AS count FROM ${table} WHERE ${column} IS NOT NULL GROUP BY 1`,
    [low, low + bins * width, bins],
  );
  const counts = new Map(found.rows.map((row) => [row.bin as number, row.count as number]));
  const label = (i: number) => {
    const from = low + i * width;
    if (!whole)
      return tell('shape.to', { from: numberText(from, english), to: numberText(from + width, english) });
    return width === 1
      ? numberText(from, english)
      : tell('shape.to', {
          from: numberText(from, english),
          to: numberText(Math.min(high, from + width - 1), english),
        });
  };
  return {
    kind: 'ranges',
    bins: Array.from({ length: bins }, (_, i) => ({ label: label(i), count: counts.get(i + 1) ?? 0 })),
    others: 0,
  };
}

async function periods(client: pg.ClientBase, table: string, field: Field): Promise<FieldShape> {
  const column = quoted(field.key);
  const grain = firstGrain(field);
  const found = await client.query(
    `SELECT date_trunc($1, ${column})::date::text AS period, count(*) AS count FROM ${table} WHERE ${column} IS NOT NULL GROUP BY 1 ORDER BY 1 LIMIT 400`,
    [grain],
  );
  return {
    kind: 'ranges',
    bins: found.rows.map((row) => ({ label: keyText(row.period, english, 'date', grain), count: row.count })),
    others: 0,
  };
}

async function values(client: pg.ClientBase, table: string, field: Field): Promise<FieldShape> {
  const column = quoted(field.key);
  const found = await client.query(
    `SELECT ${column} AS value, count(*) AS count FROM ${table} WHERE ${column} IS NOT NULL GROUP BY 1 ORDER BY 2 DESC, 1 LIMIT $1`,
    [topCount],
  );
  const bins = found.rows.map((row) => ({
    label: cutText(keyText(row.value, english, field.type), 200),
    count: row.count as number,
  }));
  const counted = bins.reduce((total, bin) => total + bin.count, 0);
  return { kind: 'values', bins, others: field.profile!.count - counted };
}

/** The spread of a field that has its profile. */
export function fieldShape(client: pg.ClientBase, table: string, field: Field): Promise<FieldShape> {
  if (isTemporal(field.type)) return periods(client, table, field);
  return isNumeric(field.type) && field.profile!.distinct > topCount
    ? ranges(client, table, field)
    : values(client, table, field);
}
