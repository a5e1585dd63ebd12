import { type CubeRequest, partialKey } from '@sorvik/core/data/cube';
import { dimensionKey } from '@sorvik/core/data/dimension';
import type { FieldType } from '@sorvik/core/data/values';
import {
  Dictionary,
  Field,
  Float64,
  Int32,
  makeData,
  makeVector,
  RecordBatch,
  Schema,
  Struct,
  Table,
  tableToIPC,
  Utf8,
  vectorFromArray,
} from 'apache-arrow';

type Row = unknown[];

/** The bits of Arrow's validity map: 1 where there is a value. */
function validity(
  length: number,
  isValid: (i: number) => boolean,
): { nullCount: number; nullBitmap: Uint8Array } {
  const nullBitmap = new Uint8Array(Math.ceil(length / 8));
  let nullCount = 0;
  for (let i = 0; i < length; i++) {
    if (isValid(i)) nullBitmap[i >> 3]! |= 1 << (i & 7);
    else nullCount++;
  }
  return { nullCount, nullBitmap };
}

/** A key column, each distinct value once in a dictionary. */
function keyColumn(rows: Row[], at: number, type: FieldType) {
  const codes = new Int32Array(rows.length);
  const known = new Map<unknown, number>();
  rows.forEach((row, i) => {
    const value = row[at];
    if (value === null) return;
    let code = known.get(value);
    if (code === undefined) {
      code = known.size;
      known.set(value, code);
    }
    codes[i] = code;
  });
  const numeric = type === 'integer' || type === 'decimal';
  const dictionary = numeric
    ? makeVector(Float64Array.from(known.keys() as Iterable<number>))
    : vectorFromArray([...known.keys()].map(String), new Utf8());
  const valueType = numeric ? new Float64() : new Utf8();
  const dataType = new Dictionary(valueType, new Int32(), at);
  const data = makeData({
    type: dataType,
    length: rows.length,
    data: codes,
    dictionary: dictionary as never,
    ...validity(rows.length, (i) => rows[i]![at] !== null),
  });
  return { dataType, data };
}

function partialColumn(rows: Row[], at: number) {
  const values = Float64Array.from(rows, (row) => (row[at] as number | null) ?? Number.NaN);
  const dataType = new Float64();
  const data = makeData({
    type: dataType,
    length: rows.length,
    data: values,
    ...validity(rows.length, (i) => rows[i]![at] !== null),
  });
  return { dataType, data };
}

/** The rows of a cube's query as Arrow IPC, one record batch; see `cubeFromArrow` for the names of its columns. */
export function cubeToArrow(rows: Row[], request: CubeRequest, keyTypes: readonly FieldType[]): Uint8Array {
  const keys = request.keys.map((key, i) => {
    const { dataType, data } = keyColumn(rows, i, keyTypes[i]!);
    return {
      field: new Field(`key ${dimensionKey(key)}`, dataType, true, new Map([['type', keyTypes[i]!]])),
      data,
    };
  });
  const partials = request.partials.map((partial, i) => {
    const { dataType, data } = partialColumn(rows, request.keys.length + i);
    return { field: new Field(`partial ${partialKey(partial)}`, dataType, true), data };
  });
  const columns = [...keys, ...partials];
  const schema = new Schema(columns.map((column) => column.field) as Field[]);
  const struct = makeData({
    type: new Struct(schema.fields),
    length: rows.length,
    nullCount: 0,
    children: columns.map((column) => column.data) as never,
  });
  return tableToIPC(new Table(schema, new RecordBatch(schema, struct)), 'stream');
}
