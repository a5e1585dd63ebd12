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

/** A key column: each value once, and which one each row has; -1 is none. */
export interface CodedKeys {
  codes: Int32Array;
  values: readonly unknown[];
}

/** The answer to a question, column by column; NaN is a partial aggregate of nothing. */
export interface CubeColumns {
  length: number;
  keys: readonly CodedKeys[];
  partials: readonly Float64Array[];
}

/** Codes values, which come one after another, by when they first occur. */
export class ValueCodes {
  private readonly known = new Map<unknown, number>();

  /** The code of a value; -1 of none. */
  of(value: unknown): number {
    if (value === null) return -1;
    let code = this.known.get(value);
    if (code === undefined) {
      code = this.known.size;
      this.known.set(value, code);
    }
    return code;
  }

  values(): unknown[] {
    return [...this.known.keys()];
  }
}

/** Codes values by when they first occur. */
export function coded(values: ArrayLike<unknown>): CodedKeys {
  const known = new ValueCodes();
  const codes = Int32Array.from(values, (value) => known.of(value));
  return { codes, values: known.values() };
}

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
function keyColumn({ codes, values }: CodedKeys, at: number, type: FieldType) {
  const { length } = codes;
  const numeric = type === 'integer' || type === 'decimal';
  const dictionary = numeric
    ? makeVector(Float64Array.from(values as number[]))
    : vectorFromArray(values.map(String), new Utf8());
  const dataType = new Dictionary(numeric ? new Float64() : new Utf8(), new Int32(), at);
  const data = makeData({
    type: dataType,
    length,
    // Where there is no value, the code says nothing.
    data: codes.map((code) => Math.max(0, code)),
    dictionary: dictionary as never,
    ...validity(length, (i) => codes[i]! >= 0),
  });
  return { dataType, data };
}

function partialColumn(values: Float64Array) {
  const { length } = values;
  const dataType = new Float64();
  const data = makeData({
    type: dataType,
    length,
    data: values,
    ...validity(length, (i) => !Number.isNaN(values[i]!)),
  });
  return { dataType, data };
}

/** The answer to a question as one record batch; see `cubeFromArrow` for the names of its columns. */
export function cubeBatch(
  { length, ...columns }: CubeColumns,
  request: CubeRequest,
  keyTypes: readonly FieldType[],
): RecordBatch {
  const keys = request.keys.map((key, i) => {
    const { dataType, data } = keyColumn(columns.keys[i]!, i, keyTypes[i]!);
    return {
      field: new Field(`key ${dimensionKey(key)}`, dataType, true, new Map([['type', keyTypes[i]!]])),
      data,
    };
  });
  const partials = request.partials.map((partial, i) => {
    const { dataType, data } = partialColumn(columns.partials[i]!);
    return { field: new Field(`partial ${partialKey(partial)}`, dataType, true), data };
  });
  const all = [...keys, ...partials];
  const schema = new Schema(all.map((column) => column.field) as Field[]);
  const struct = makeData({
    type: new Struct(schema.fields),
    length,
    nullCount: 0,
    children: all.map((column) => column.data) as never,
  });
  return new RecordBatch(schema, struct);
}

/** Record batches on their way to a page. */
export const arrowStream = (batch: RecordBatch): Uint8Array =>
  tableToIPC(new Table(batch.schema, batch), 'stream');
