import { randomUUID } from 'node:crypto';
import type { FieldProfile } from '@sorvik/core/data/dataset';
import type { FieldType } from '@sorvik/core/data/values';
import { english } from '@sorvik/core/messages/locale';
import { listed } from '@sorvik/core/words/plural';
import { eq, sql } from 'drizzle-orm';
import type pg from 'pg';
import { ownedByAsker } from '../access/asking';
import { keepProfiled } from '../datasets/computed';
import { type Field, fieldsOf, type StoredDataset } from '../datasets/store';
import { atOnce, type Database, quoted } from '../db/client';
import { inNaturalOrder } from '../db/natural-order';
import { datasets, fields, type Relation, type RemoteColumn } from '../db/schema';
import { invalid, notFound } from '../http/problem';
import { columnNames, fieldKeys } from '../imports/field-keys';
import { oddSql } from '../sources/in-place/columns';
import { InPlaceSource, type Place } from '../sources/in-place/in-place-source';
import { sourceProblem } from '../sources/in-place/problems';
import { relationOf } from '../sources/in-place/relations';
import { tell } from '../tell';

/** What a look at a table found. */
interface Found {
  relation: Relation;
  rows: number;
  fields: Pick<Field, 'key' | 'name' | 'type' | 'column' | 'profile'>[];
  notes: string[];
}

interface Column {
  name: string;
  type: string;
  as: FieldType;
}

/** So many fields are looked at at a time. */
const atATime = 3;

/** How many rows there are, and which columns have values that a chart cannot show. */
async function firstLook(place: Place, relation: Relation, columns: readonly Column[], signal: AbortSignal) {
  const odd = columns.map(({ name, as }) => oddSql(name, as));
  const asked = odd.flatMap((each, i) => (each ? [`, bool_or(${each}) AS odd${i}`] : [])).join('');
  const { rows } = await place.server.read(
    (client) =>
      client.query(
        `SELECT count(*) AS rows${asked} FROM ${quoted(relation.schema)}.${quoted(relation.name)}`,
      ),
    signal,
  );
  const [found] = rows as Record<string, unknown>[];
  return { rows: Number(found!.rows), isOdd: columns.map((_, i) => found![`odd${i}`] === true) };
}

/** A column as a field: one that was a field before stays that one, by its name there. */
function fieldsFor(columns: readonly Column[], isOdd: readonly boolean[], before: readonly Field[]) {
  const { names } = columnNames(columns.map(({ name }) => name));
  const known = new Map(before.map((field) => [field.column?.name, field]));
  const added = columns.filter(({ name }) => !known.has(name));
  const keys = fieldKeys([...before.map(({ key }) => key), ...added.map(({ name }) => name)]).slice(
    before.length,
  );
  return columns.map(({ name, type, as }, i) => {
    const was = known.get(name);
    const large = isOdd[i] && as === 'integer';
    const column: RemoteColumn = { name, type, ...(isOdd[i] && !large ? { guarded: true as const } : {}) };
    return {
      key: was?.key ?? keys[added.findIndex((each) => each.name === name)]!,
      name: was?.name ?? names[i]!,
      type: large ? ('text' as const) : as,
      column,
    };
  });
}

/** Looks at a table: its columns, how many rows it has, and what the values of each column are like. */
async function lookAt(
  database: Database,
  place: Place,
  { schema, name }: { schema: string; name: string },
  before: readonly Field[],
  signal: AbortSignal,
): Promise<Found> {
  // Only what the other database did not answer is told of it: keeping what was found is ours.
  const told = <T>(work: Promise<T>): Promise<T> =>
    work.catch((error) => {
      throw sourceProblem(error, place);
    });
  const table = await told(place.server.read((client) => relationOf(client, schema, name), signal));
  if (!table) throw notFound('table', `${schema}.${name}`);
  const relation: Relation = { schema, name, order: table.order };
  const columns = table.fields.flatMap(({ name, is, type }) => (type ? [{ name, type: is, as: type }] : []));
  if (!columns.length)
    throw invalid([
      { pointer: '/table', message: tell('connections.nothingToShow', { table: `${schema}.${name}` }) },
    ]);
  const { rows, isOdd } = await told(firstLook(place, relation, columns, signal));
  const found = fieldsFor(columns, isOdd, before);
  const source = new InPlaceSource(
    place,
    { version: 0, rows, fields: found as Field[], relation },
    (texts) => inNaturalOrder(database, texts),
    null,
  );
  const profiles: FieldProfile[] = [];
  let next = 0;
  const describe = async (): Promise<void> => {
    const at = next++;
    if (at >= found.length) return;
    profiles[at] = await told(source.describe(found[at] as Field, signal));
    return describe();
  };
  // More than there are connections would wait for each other, and not for long.
  await Promise.all(Array.from({ length: Math.min(atATime, place.most) }, describe));
  const left = table.fields.filter(({ type }) => type === null).map((each) => `“${each.name}” (${each.is})`);
  const notes = [
    ...(left.length ? [tell('connections.left', { n: left.length, columns: listed(left, english) })] : []),
    ...columns.flatMap(({ name, as }, i) =>
      isOdd[i]
        ? [
            as === 'integer'
              ? tell('connections.asText', { column: name })
              : tell('connections.guarded', { column: name, type: as }),
          ]
        : [],
    ),
    ...(table.changeable ? [tell('connections.changeable')] : []),
  ];
  return { relation, rows, notes, fields: found.map((field, i) => ({ ...field, profile: profiles[i]! })) };
}

const sourceOf = ({ relation: { schema, name }, notes }: Found) => ({
  file: `${schema}.${name}`,
  encoding: '',
  separator: '',
  notes,
});

/** Makes a dataset that is a name for a table in place; gives its id. Nothing is kept where the look fails. */
export async function placeTable(
  database: Database,
  connection: string,
  place: Place,
  table: { schema: string; name: string },
  name: string,
  signal: AbortSignal,
): Promise<string> {
  const found = await lookAt(database, place, table, [], signal);
  const id = randomUUID();
  const version = Date.now();
  await atOnce(database.db, async (tx) => {
    await tx.insert(datasets).values({
      id,
      name,
      version,
      shaped: version,
      rows: found.rows,
      source: sourceOf(found),
      connection,
      relation: found.relation,
    });
    await tx.insert(fields).values(found.fields.map((field, i) => ({ ...field, dataset: id, place: i })));
    await keepProfiled(tx.$client as pg.PoolClient, id);
    await ownedByAsker(tx, 'dataset', id);
  });
  return id;
}

/** Looks again at a table in place: what it has now are the fields, and what was answered before is out of date. */
export async function lookAgain(
  database: Database,
  place: Place,
  { id, relation }: StoredDataset & { relation: Relation },
  signal: AbortSignal,
): Promise<void> {
  const before = await fieldsOf(database.db, id);
  const found = await lookAt(database, place, relation, before, signal);
  await atOnce(database.db, async (tx) => {
    // First of all, so that of two looks at a time one comes after the other.
    await tx
      .update(datasets)
      .set({
        version: sql`${datasets.version} + 1`,
        shaped: sql`${datasets.version} + 1`,
        rows: found.rows,
        relation: found.relation,
        source: sourceOf(found),
      })
      .where(eq(datasets.id, id));
    await tx.delete(fields).where(eq(fields.dataset, id));
    await tx.insert(fields).values(found.fields.map((field, i) => ({ ...field, dataset: id, place: i })));
    await keepProfiled(tx.$client as pg.PoolClient, id);
  });
}
