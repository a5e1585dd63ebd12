import { Readable } from 'node:stream';
import type { FieldInfo } from '@sorvik/core/data/dataset';
import type { FieldType } from '@sorvik/core/data/values';
import {
  Field as ArrowField,
  Bool,
  type DataType,
  DateDay,
  Float64,
  Int64,
  type RecordBatch,
  RecordBatchStreamWriter,
  Schema,
  Table,
  TimestampMicrosecond,
  Utf8,
  vectorFromArray,
} from 'apache-arrow';

const dayMs = 86_400_000;

/** How a cell as it is written in text becomes a value of Arrow. */
const arrowTypes: Record<FieldType, { type: () => DataType; value(cell: string): unknown }> = {
  integer: { type: () => new Int64(), value: (cell) => BigInt(cell) },
  decimal: { type: () => new Float64(), value: Number },
  text: { type: () => new Utf8(), value: (cell) => cell },
  boolean: { type: () => new Bool(), value: (cell) => cell === 'true' },
  date: {
    type: () => new DateDay(),
    value: (cell) => new Date(Math.floor(Date.parse(cell) / dayMs) * dayMs),
  },
  datetime: { type: () => new TimestampMicrosecond(), value: (cell) => Date.parse(`${cell}Z`) },
};

/** What ends a stream. */
const endBytes = 8;

/** Rows as a stream of Arrow IPC. A cell is a value as text, and empty where there is none. */
export function arrowStream(
  fields: readonly Pick<FieldInfo, 'name' | 'type'>[],
  rows: AsyncIterable<readonly (readonly string[])[]>,
): Readable {
  const schema = new Schema(
    fields.map(({ name, type }) => new ArrowField(name, arrowTypes[type].type(), true)),
  );
  const tableOf = (some: readonly (readonly string[])[]) =>
    new Table(
      schema,
      Object.fromEntries(
        fields.map(({ name, type }, c) => {
          const { type: made, value } = arrowTypes[type];
          // What is empty has no value: texts that are empty are not kept.
          return [
            name,
            vectorFromArray(
              some.map((row) => (row[c] === '' ? null : value(row[c]!))),
              made(),
            ),
          ];
        }),
      ),
    );
  // A stream is its schema, its batches and its end. Each batch is written by itself, when whoever fetches takes more.
  const framed = (batches: readonly RecordBatch[]): Uint8Array => {
    const writer = new RecordBatchStreamWriter();
    writer.reset(undefined, schema);
    for (const batch of batches) writer.write(batch);
    return writer.finish().toUint8Array(true);
  };
  const empty = framed([]);
  const head = empty.subarray(0, empty.length - endBytes);
  async function* bytes() {
    yield head;
    for await (const some of rows) yield framed(tableOf(some).batches).subarray(head.length, -endBytes);
    yield empty.subarray(-endBytes);
  }
  return Readable.from(bytes());
}
