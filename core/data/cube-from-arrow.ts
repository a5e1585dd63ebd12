import { type Column, type Field, Type, tableFromIPC } from '@uwdata/flechette';
import { type Cube, type CubeDimension, type PartialAggregate, partialFromKey } from './cube';
import { dimensionFromKey } from './dimension';
import type { KeyValue } from './values';

function readPartial(key: string): PartialAggregate {
  const partial = partialFromKey(key);
  if (!partial) throw new Error(`The cube has a column of an unknown kind: ${key}.`);
  return partial;
}

type Batch = Column<unknown>['data'][number];
type DictionaryBatch = Batch & { dictionary: Column<unknown> };

/** Where a column has no value, its bit in the map of validity is 0. */
function eachMissing(batch: Batch, missing: (i: number) => void): void {
  if (batch.nullCount > 0) for (let i = 0; i < batch.length; i++) if (!batch.isValid(i)) missing(i);
}

function readDimension({ name, type, metadata }: Field, column: Column<unknown>): CubeDimension {
  if (type.typeId !== Type.Dictionary) throw new Error(`The cube's key ${name} is not dictionary-coded.`);
  const dimension = dimensionFromKey(name.slice('key '.length));
  const codes = new Int32Array(column.length);
  const [batch] = column.data as DictionaryBatch[];
  if (!batch) return { ...dimension, values: [], codes };
  // A buffer is padded to whole words: it can be longer than the column.
  codes.set((batch.values as Int32Array).subarray(0, column.length));
  eachMissing(batch, (i) => {
    codes[i] = -1;
  });
  const boolean = metadata?.get('type') === 'boolean';
  const values = [...batch.dictionary].map((value) => (boolean ? value === 'true' : value) as KeyValue);
  return { ...dimension, values, codes };
}

function readNumbers(column: Column<unknown>): Float64Array {
  const numbers = new Float64Array(column.length);
  const [batch] = column.data;
  if (!batch) return numbers;
  numbers.set((batch.values as Float64Array).subarray(0, column.length));
  eachMissing(batch, (i) => {
    numbers[i] = Number.NaN;
  });
  return numbers;
}

/**
 * Reads a cube from Arrow IPC of one record batch. Columns named `key <dimension>` are dictionary-coded,
 * columns named `partial <aggregate.field>` are doubles.
 */
export function cubeFromArrow(bytes: Uint8Array): Cube {
  const table = tableFromIPC(bytes);
  const cube: Cube = { cells: table.numRows, dimensions: [], partials: [] };
  table.schema.fields.forEach((field, i) => {
    const column: Column<unknown> = table.getChildAt(i);
    if (field.name.startsWith('key ')) cube.dimensions.push(readDimension(field, column));
    else
      cube.partials.push({
        ...readPartial(field.name.slice('partial '.length)),
        values: readNumbers(column),
      });
  });
  return cube;
}
