import { dirname, join } from 'node:path';
import type { DuckDBConnection, DuckDBType } from '@duckdb/node-api';
import type { ImportQuestion } from '@sorvik/core/board/api-types';
import type { FieldType } from '@sorvik/core/data/values';
import { tell } from '../../tell';
import { type Answers, type ReadColumn, type ReadTable, UnreadableFile } from './format-kind';

const quoted = (name: string) => `"${name.replaceAll('"', '""')}"`;
export const literal = (text: string) => `'${text.replaceAll("'", "''")}'`;

/** Work on a column store of its own, in memory; what does not fit goes next to the file. */
async function withStore<T>(path: string, work: (connection: DuckDBConnection) => Promise<T>): Promise<T> {
  const { DuckDBInstance } = await import('@duckdb/node-api');
  const instance = await DuckDBInstance.create(':memory:', {
    threads: '2',
    memory_limit: '256MiB',
    temp_directory: join(dirname(path), 'spill'),
    // Rows come out in the order of the file.
    preserve_insertion_order: 'true',
    autoinstall_known_extensions: 'false',
    autoload_known_extensions: 'false',
    allow_community_extensions: 'false',
  });
  const connection = await instance.connect();
  try {
    await connection.run("SET TimeZone = 'UTC'");
    return await work(connection);
  } finally {
    connection.closeSync();
    instance.closeSync();
  }
}

/** A value within a row that becomes a field: where it is, as SQL, and what it is. */
interface Leaf {
  name: string;
  sql: string;
  type: DuckDBType;
}

const idOf = (type: DuckDBType) => String(type).replace(/\(.*$/s, '');
const isList = (type: DuckDBType) => /\[\d*\]$/.test(String(type));
const isStruct = (type: DuckDBType) => String(type).startsWith('STRUCT(');

/** The values of a column, those inside it by their path: "place.quay". */
function leavesOf(name: string, sql: string, type: DuckDBType): Leaf[] {
  if (!isStruct(type)) return [{ name, sql, type }];
  const { entryNames, entryTypes } = type as unknown as { entryNames: string[]; entryTypes: DuckDBType[] };
  return entryNames.flatMap((entry, i) =>
    leavesOf(`${name}.${entry}`, `${sql}.${quoted(entry)}`, entryTypes[i]!),
  );
}

const types: Record<string, FieldType> = {
  BOOLEAN: 'boolean',
  TINYINT: 'integer',
  SMALLINT: 'integer',
  INTEGER: 'integer',
  BIGINT: 'integer',
  UTINYINT: 'integer',
  USMALLINT: 'integer',
  UINTEGER: 'integer',
  FLOAT: 'decimal',
  DOUBLE: 'decimal',
  DATE: 'date',
  TIMESTAMP: 'datetime',
  TIMESTAMP_S: 'datetime',
  TIMESTAMP_MS: 'datetime',
  TIMESTAMP_NS: 'datetime',
  'TIMESTAMP WITH TIME ZONE': 'datetime',
};
/** Numbers that may be larger than a whole number can be: they are looked at as they come. */
const wide = ['UBIGINT', 'HUGEINT', 'UHUGEINT', 'DECIMAL', 'BIGNUM'];

function columnOf({ name, type }: Leaf, { texts, digits }: How): ReadColumn {
  const id = idOf(type);
  if (digits && id === 'DOUBLE') return { name, is: null };
  return { name, is: types[id] ?? (wide.includes(id) ? null : texts) };
}

/** A type in which numbers are texts, so that each of their digits comes over. */
function inDigits(type: DuckDBType): string {
  if (isStruct(type)) {
    const { entryNames, entryTypes } = type as unknown as { entryNames: string[]; entryTypes: DuckDBType[] };
    return `STRUCT(${entryNames.map((name, i) => `${quoted(name)} ${inDigits(entryTypes[i]!)}`).join(', ')})`;
  }
  if (isList(type)) return `${inDigits((type as unknown as { valueType: DuckDBType }).valueType)}[]`;
  return idOf(type) === 'DOUBLE' ? 'VARCHAR' : String(type);
}

/** A value as it is written in the CSV text. */
function written({ sql, type, name }: Leaf, digits: boolean): string {
  const id = idOf(type);
  const value =
    id === 'FLOAT' || (id === 'DOUBLE' && !digits)
      ? `CASE WHEN isfinite(${sql}) THEN ${sql} END`
      : id === 'JSON'
        ? `${sql} ->> '$'`
        : id === 'TIMESTAMP WITH TIME ZONE'
          ? `(${sql} AT TIME ZONE 'UTC')`
          : id === 'TIMESTAMP_NS'
            ? `${sql}::timestamp`
            : id === 'BLOB' || id === 'BIT'
              ? 'NULL'
              : sql;
  return `${value} AS ${quoted(name)}`;
}

const item = '"#item"';

/** How a format is read. */
export interface How {
  /** As people call it. */
  format: string;
  /** What its texts are. */
  texts: ReadColumn['is'];
  /** For a format in which numbers are written out: how it is read with columns of these types. */
  digits?: (columns: string) => string;
}

/** The columns that a query has, as values. */
async function describe(connection: DuckDBConnection, from: string): Promise<Leaf[]> {
  const reader = await connection.runAndReadAll(`SELECT * FROM ${from} LIMIT 0`);
  const found = reader.columnTypes();
  return reader.columnNames().flatMap((name, i) => leavesOf(name, quoted(name), found[i]!));
}

/** The columns of a query with their types, or those that they are to be read in, as the column store takes them. */
async function columnTypes(
  connection: DuckDBConnection,
  from: string,
  typeOf: (type: DuckDBType) => string,
): Promise<string> {
  const reader = await connection.runAndReadAll(`SELECT * FROM ${from} LIMIT 0`);
  const found = reader.columnTypes();
  const columns = reader.columnNames().map((name, i) => `${literal(name)}: ${literal(typeOf(found[i]!))}`);
  return `{${columns.join(', ')}}`;
}

/** The columns of what is read as `from`, found by looking at all of it: whoever has them need not look again. */
export const columnsOf = (path: string, from: string, format: string): Promise<string> =>
  withStore(path, (connection) =>
    columnTypes(connection, from, String).catch((error) => {
      throw failed(error, format);
    }),
  );

const failed = (error: unknown, format: string): UnreadableFile =>
  new UnreadableFile(
    tell('formats.cannotBeRead', {
      format,
      why: String((error as Error).message ?? error)
        .split('\n')[0]!
        .replace(/"?\/[^\s"]+"?/g, tell('formats.theFile'))
        .slice(0, 300),
    }),
  );

/** What is asked of a table that has lists in its rows. */
export async function listQuestions(path: string, from: string, format: string): Promise<ImportQuestion[]> {
  return withStore(path, async (connection) => {
    try {
      const lists = (await describe(connection, from)).filter(({ type }) => isList(type));
      const questions: ImportQuestion[] = [];
      for (const { name, sql } of lists) {
        const found = await connection.runAndReadAll(
          `SELECT (${sql})::varchar FROM ${from} WHERE len(${sql}) > 0 LIMIT 3`,
        );
        const examples = found.getRows().map(([value]) => String(value).slice(0, 80));
        questions.push({
          column: name,
          asks: 'list',
          examples,
          options: [
            { answer: 'out', reads: [] },
            { answer: 'rows', reads: [] },
          ],
        });
      }
      return questions;
    } catch (error) {
      throw failed(error, format);
    }
  });
}

/**
 * Writes what the column store reads as `from` to a CSV file: nested values as fields of their own, one list as rows where
 * that was answered.
 */
export async function storeToCsv(
  path: string,
  from: string,
  out: string,
  how: How,
  answers: Answers,
): Promise<ReadTable> {
  const { format, digits } = how;
  return withStore(path, async (connection) => {
    try {
      const all = await describe(connection, from);
      const lists = all.filter(({ type }) => isList(type));
      const split = lists.filter(({ name }) => answers[name] === 'rows');
      if (split.length > 1) throw new UnreadableFile(tell('formats.oneListOnly'));
      const [list] = split;
      const rows = digits ? digits(await columnTypes(connection, from, inDigits)) : from;
      const source = list
        ? `(SELECT *, unnest(CASE WHEN len(${list.sql}) > 0 THEN ${list.sql} ELSE [NULL] END) AS ${item} FROM ${rows})`
        : rows;
      const items = list
        ? leavesOf(list.name, item, (list.type as unknown as { valueType: DuckDBType }).valueType)
        : [];
      const leaves = all
        .flatMap((leaf) => (leaf === list ? items : [leaf]))
        .filter(({ type }) => !isList(type) && !String(type).startsWith('MAP('));
      if (!leaves.length) throw new UnreadableFile(tell('formats.noFields', { format }));
      const gone = [...all, ...items].filter((leaf) => leaf !== list && !leaves.includes(leaf));
      await connection.run(
        `COPY (SELECT ${leaves.map((leaf) => written(leaf, digits !== undefined)).join(', ')} FROM ${source}) TO ${literal(out)} (FORMAT csv, HEADER true)`,
      );
      const notes: string[] = [];
      const blobs = leaves.filter(({ type }) => ['BLOB', 'BIT'].includes(idOf(type)));
      const out1 = [...gone, ...blobs].map(({ name }) => name);
      if (out1.length) notes.push(tell('formats.leftOut', { n: out1.length, fields: out1.join(', ') }));
      const zoned = leaves.filter(({ type }) => idOf(type) === 'TIMESTAMP WITH TIME ZONE');
      if (zoned.length)
        notes.push(
          tell('formats.inUtc', { n: zoned.length, fields: zoned.map(({ name }) => name).join(', ') }),
        );
      return { columns: leaves.map((leaf) => columnOf(leaf, how)), notes, unread: [] };
    } catch (error) {
      throw error instanceof UnreadableFile ? error : failed(error, format);
    }
  });
}
