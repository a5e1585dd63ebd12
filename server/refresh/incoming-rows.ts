import { cameWithRows } from '@sorvik/core/data/dataset';
import { type Table, Type, tableFromIPC } from 'apache-arrow';
import type { Field } from '../datasets/store';
import { invalid } from '../http/problem';
import { cutText } from '../http/well-formed';
import { type ColumnPlan, cellReader, plainNumber } from '../imports/column-plan';
import { parseText } from '../imports/csv-rows';
import { tell } from '../tell';

/** Rows that were pushed: for each of some fields a column of texts as COPY takes them. */
export interface IncomingRows {
  fields: Field[];
  rows: (string | null)[][];
}

/** So many rows come at a time, and no value has so many characters. */
export const mostPushedRows = 100_000;

const plan = ({ name, type }: Field): ColumnPlan => ({
  name,
  type,
  number: plainNumber,
  date: 'ymd',
  ambiguousDate: false,
  ambiguousNumbers: [],
  examples: [],
});

/** A value of another program's as text; undefined for one that no field can hold. */
function textOf(value: unknown): string | null | undefined {
  switch (typeof value) {
    case 'string':
      return value;
    case 'number':
      return Number.isFinite(value) ? String(value) : undefined;
    case 'boolean':
    case 'bigint':
      return String(value);
    default:
      if (value === null || value === undefined) return null;
      return value instanceof Date ? value.toISOString().replace('Z', '') : undefined;
  }
}

const at = (line: number) => `/rows/${line}`;

/** Records as rows, each value checked against its field. Throws 422, naming row, field and remedy. */
function rowsOf(
  fields: readonly Field[],
  names: readonly string[],
  records: Iterable<readonly unknown[]>,
): IncomingRows {
  const own = fields.filter(cameWithRows);
  const taken = names.map((name) => {
    const wanted = name.trim().toLowerCase();
    const field =
      own.find(({ key }) => key === name) ?? own.find((each) => each.name.toLowerCase() === wanted);
    if (!field)
      throw invalid([
        {
          pointer: '',
          message: tell('push.noSuchField', {
            name: cutText(name, 100),
            fields: own.map(({ key }) => key).join(', '),
          }),
        },
      ]);
    return field;
  });
  const twice = taken.find((field, i) => taken.indexOf(field) !== i);
  if (twice) throw invalid([{ pointer: '', message: tell('push.fieldTwice', { name: twice.key }) }]);
  const readers = taken.map((field) => cellReader(plan(field)));
  const rows: (string | null)[][] = [];
  let line = 0;
  for (const record of records) {
    line++;
    if (line > mostPushedRows)
      throw invalid([{ pointer: '', message: tell('push.tooManyRows', { most: mostPushedRows }) }]);
    if (record.length !== taken.length)
      throw invalid([
        { pointer: at(line), message: tell('load.cells', { cells: record.length, columns: taken.length }) },
      ]);
    rows.push(
      record.map((value, c) => {
        const text = textOf(value);
        const field = taken[c]!;
        const isEmpty = text === null || (text !== undefined && text.trim() === '');
        if (isEmpty) return null;
        const read =
          text === undefined || text.includes('\0')
            ? undefined
            : readers[c]!(field.type === 'text' ? text : text.trim());
        if (read === undefined)
          throw invalid([
            {
              pointer: `${at(line)}/${field.key}`,
              message: tell('load.isNot', {
                text: cutText(text ?? JSON.stringify(value) ?? '', 60),
                type: field.type,
              }),
            },
          ]);
        return read;
      }),
    );
  }
  if (!rows.length) throw invalid([{ pointer: '', message: tell('push.noRows') }]);
  return { fields: taken, rows };
}

/** The values of a record, those inside it under their paths. */
function flattened(record: object, path: string, into: Map<string, unknown>): void {
  for (const [name, value] of Object.entries(record)) {
    const own = path ? `${path}.${name}` : name;
    if (typeof value === 'object' && value !== null && !Array.isArray(value)) flattened(value, own, into);
    else into.set(own, value);
  }
}

function fromLines(text: string, fields: readonly Field[]): IncomingRows {
  const records: Map<string, unknown>[] = [];
  const names = new Set<string>();
  let line = 0;
  for (const each of text.split('\n')) {
    line++;
    if (!each.trim()) continue;
    let value: unknown;
    try {
      value = JSON.parse(each);
    } catch {
      throw invalid([{ pointer: at(line), message: tell('formats.lineIsNotJson') }]);
    }
    if (typeof value !== 'object' || value === null || Array.isArray(value))
      throw invalid([{ pointer: at(line), message: tell('formats.noRecord') }]);
    const record = new Map<string, unknown>();
    flattened(value, '', record);
    for (const name of record.keys()) names.add(name);
    records.push(record);
  }
  const all = [...names];
  return rowsOf(
    fields,
    all,
    records.map((record) => all.map((name) => record.get(name))),
  );
}

function fromCsv(text: string, fields: readonly Field[]): IncomingRows {
  const [head = [], ...rows] = parseText(text, ',').filter((row) => row.length > 1 || row[0] !== '');
  return rowsOf(fields, head, rows);
}

function fromArrow(bytes: Uint8Array, fields: readonly Field[]): IncomingRows {
  let table: Table;
  try {
    table = tableFromIPC(bytes);
  } catch {
    throw invalid([{ pointer: '', message: tell('push.notArrow') }]);
  }
  const columns = table.schema.fields.map((field, c) => {
    const vector = table.getChildAt(c)!;
    const isDay = field.type.typeId === Type.Date;
    const isMoment = field.type.typeId === Type.Timestamp;
    return (row: number): unknown => {
      const value: unknown = vector.get(row);
      if (value === null || !(isDay || isMoment)) return value;
      const text = new Date(Number(value)).toISOString();
      return isDay ? text.slice(0, 10) : text.replace('Z', '');
    };
  });
  const names = table.schema.fields.map(({ name }) => name);
  function* records() {
    for (let row = 0; row < table.numRows; row++) yield columns.map((column) => column(row));
  }
  return rowsOf(fields, names, records());
}

/** How rows can be pushed, by their media types. */
const readers: Record<string, (body: Uint8Array, fields: readonly Field[]) => IncomingRows> = {
  'application/x-ndjson': (body, fields) => fromLines(Buffer.from(body).toString('utf8'), fields),
  'application/json': (body, fields) => fromLines(Buffer.from(body).toString('utf8'), fields),
  'text/csv': (body, fields) => fromCsv(Buffer.from(body).toString('utf8'), fields),
  'application/vnd.apache.arrow.stream': fromArrow,
};
export const pushedTypes = Object.keys(readers).filter((type) => type !== 'application/json');

/** Reads pushed rows for the fields of a dataset. Throws 422 for what does not fit; undefined where the type is none. */
export const readPushed = (
  type: string,
  body: Uint8Array,
  fields: readonly Field[],
): IncomingRows | undefined => readers[type.split(';')[0]!.trim().toLowerCase()]?.(body, fields);
