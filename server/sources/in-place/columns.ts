import type { FieldType } from '@sorvik/core/data/values';
import type { Field } from '../../datasets/store';
import { quoted } from '../../db/client';
import type { Relation, RemoteColumn } from '../../db/schema';

/** What types of other databases are here, by the names that PostgreSQL gives them. */
const types: Readonly<Record<string, FieldType>> = {
  smallint: 'integer',
  integer: 'integer',
  bigint: 'integer',
  numeric: 'decimal',
  real: 'decimal',
  'double precision': 'decimal',
  text: 'text',
  'character varying': 'text',
  character: 'text',
  citext: 'text',
  name: 'text',
  uuid: 'text',
  boolean: 'boolean',
  date: 'date',
  'timestamp without time zone': 'datetime',
  'timestamp with time zone': 'datetime',
};

/** What a column is here; null where charts can do nothing with it. `enumerated`: its type is a list of names. */
export const typeOfColumn = (type: string, enumerated: boolean): FieldType | null =>
  enumerated ? 'text' : (types[type] ?? null);

/** Days that charts can show. */
const firstDay = '0001-01-01';
const lastDay = '9999-12-31';

/** Whether a value is one that a chart cannot show, as SQL; null for types of which all can be shown. */
export function oddSql(name: string, type: FieldType): string | null {
  const column = quoted(name);
  if (type === 'integer')
    return `(${column} > ${Number.MAX_SAFE_INTEGER} OR ${column} < ${Number.MIN_SAFE_INTEGER})`;
  if (type === 'decimal') return `(${column}::double precision IN ('NaN', 'Infinity', '-Infinity'))`;
  if (type === 'date' || type === 'datetime')
    return `(${column} < '${firstDay}' OR ${column} >= '${lastDay}'::date + 1)`;
  return null;
}

/** A column as what its field holds. A cast to the type that it has costs nothing, and hides no column from an index. */
function valueSql({ name, type, guarded }: RemoteColumn, as: FieldType): string {
  const column = quoted(name);
  const within = guarded ? `CASE WHEN NOT ${oddSql(name, as) ?? 'false'} THEN ${column} END` : column;
  switch (as) {
    case 'integer':
      return `(${within})::bigint`;
    case 'decimal':
      return `(${within})::double precision`;
    case 'boolean':
      return `${column}::boolean`;
    case 'date':
      return `(${within})::date`;
    case 'datetime':
      return type === 'timestamp with time zone'
        ? `((${within}) AT TIME ZONE 'UTC')::timestamp`
        : `(${within})::timestamp`;
    case 'text':
      return `${column}::text`;
  }
}

/** A table of another database with the columns that the fields are, as SQL to select from. */
export function tableSql({ schema, name }: Relation, fields: readonly Field[]): string {
  const columns = fields.flatMap(({ key, type, column }) =>
    column ? [`${valueSql(column, type)} AS ${quoted(key)}`] : [],
  );
  return `(SELECT ${columns.join(', ')} FROM ${quoted(schema)}.${quoted(name)}) AS placed`;
}
