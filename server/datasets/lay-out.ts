import type { RowField } from '@sorvik/core/data/dataset';
import { readRow } from '@sorvik/core/data/row-formula';
import { type FieldType, isNumeric } from '@sorvik/core/data/values';
import { type Compiled, type SqlPrinter, sqlTypes as valueSql } from '@sorvik/formula/compiled';
import { fullEngine } from '@sorvik/formula/full-engine';
import type pg from 'pg';
import { badData, quoted, tableOf } from '../db/client';
import { sqlTypes } from '../imports/load';
import { makeRowTable, readyTable, tablesOf } from '../sources/postgres/row-table';
import { placeColumn } from '../sources/row-columns';
import { readLookup } from './looked-up';
import type { Making, ReadMaking } from './making';
import type { StoredDataset } from './store';

/** Writes a formula's values as parameters after those in `values`, its fields as quoted names. */
export function rowPrinter(fields: readonly RowField[], values: unknown[], guarded = false): SqlPrinter {
  const types = new Map(fields.map(({ key, type }) => [key, type]));
  return {
    value: (value, type) => `$${values.push(value)}::${valueSql[type]}`,
    list: (held, type) => `$${values.push([...held])}::${valueSql[type]}[]`,
    column(key) {
      const type = types.get(key);
      if (type === undefined) throw new Error(`The dataset has no field ${key}.`);
      return isNumeric(type) ? `${quoted(key)}::double precision` : quoted(key);
    },
    lever: () => null,
    ...(guarded ? { guarded: true as const } : {}),
  };
}

/** A column that a formula makes. */
export const formulaMaking = (
  key: string,
  { type, held }: { type: FieldType; held: Compiled },
  fields: readonly RowField[],
): Making => ({
  key,
  type,
  sql: (values, guarded) => ({ value: held.sql(rowPrinter(fields, values, guarded)) }),
});

/** How a field is made from the others of its row; or why it cannot be. `own` as in `readRow`. */
export async function readMaking(
  client: pg.ClientBase | pg.Pool,
  field: RowField,
  fields: readonly RowField[],
  own?: string,
): Promise<ReadMaking> {
  if (field.lookup) return readLookup(client, field.key, field.lookup, fields);
  const read = readRow(field.formula ?? '', fields, fullEngine, own);
  return read.ok ? { ok: true, making: formulaMaking(field.key, read, fields) } : read;
}

/** Lays the rows of a table out anew, in their order, with one column made. */
async function layOutTable(
  client: pg.ClientBase,
  { table, more }: { table: string; more: string[] },
  fields: readonly RowField[],
  made: Making,
): Promise<void> {
  const next = `${table}_next`;
  const kept = fields.map(({ key }) => key).filter((key) => key !== made.key);
  const types = new Map(fields.map(({ key, type }) => [key, type]));
  const columns = [...kept.map((key) => [key, types.get(key)!] as const), [made.key, made.type] as const];
  await makeRowTable(client, next, [
    ...columns.map(([key, type]) => `${quoted(key)} ${sqlTypes[type]}`),
    ...more.filter((column) => column !== placeColumn).map((column) => `${column} integer NOT NULL`),
  ]);
  const names = [...columns.map(([key]) => quoted(key)), ...more].join(', ');
  const fill = async (guarded: boolean) => {
    const values: unknown[] = [];
    const { value, join = '' } = made.sql(values, guarded);
    const selected = [...kept.map(quoted), `(${value})::${sqlTypes[made.type]}`, ...more].join(', ');
    await client.query(`INSERT INTO ${next} (${names}) SELECT ${selected} FROM ${table} ${join}`, values);
  };
  await client.query('SAVEPOINT filled');
  try {
    await fill(false);
  } catch (error) {
    // In some row it has no result: there it is null.
    if (!(error as { code?: string }).code?.startsWith(badData)) throw error;
    await client.query('ROLLBACK TO SAVEPOINT filled');
    await fill(true);
  }
  await client.query(`DROP TABLE ${table}`);
  await client.query(`ALTER TABLE ${next} RENAME TO ${table.slice('data.'.length)}`);
  await readyTable(client, table);
}

/** Lays the rows of a dataset out anew, those that were taken out of it too. */
export async function layOut(
  client: pg.ClientBase,
  { number }: Pick<StoredDataset, 'number'>,
  fields: readonly RowField[],
  made: Making,
): Promise<void> {
  const tables = await tablesOf(client, number);
  for (const table of tables) await layOutTable(client, table, fields, made);
  if (tables.length > 1) await client.query(`ALTER TABLE ${tableOf(number)} RESET (autovacuum_enabled)`);
}
