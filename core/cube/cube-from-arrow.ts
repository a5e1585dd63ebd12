import { DataType, type Field, tableFromIPC, type Vector } from 'apache-arrow';
import { type Grain, grains } from '../grain';
import type { KeyValue } from '../values';
import { type Atom, atomAggregates, type Cube, type CubeDimension } from './cube';

function readCut(key: string): { field: string; grain?: Grain } {
  const [field = '', grain] = key.split('.');
  return grains.includes(grain as Grain) ? { field, grain: grain as Grain } : { field };
}

function readAtom(key: string): Atom {
  const [aggregate, field] = key.split('.');
  const known = atomAggregates.find((name) => name === aggregate);
  if (!known) throw new Error(`The cube has a column of an unknown kind: ${key}.`);
  return field ? { aggregate: known, field } : { aggregate: known };
}

function readDimension(field: Field, column: Vector): CubeDimension {
  if (!DataType.isDictionary(field.type))
    throw new Error(`The cube's key ${field.name} is not dictionary-coded.`);
  const data = column.data[0];
  const boolean = field.metadata.get('type') === 'boolean';
  const values = data
    ? [...(data.dictionary as Vector)].map((v) => (boolean ? v === 'true' : v) as KeyValue)
    : [];
  const codes = new Int32Array(column.length);
  // A buffer is padded to whole words: it can be longer than the column.
  if (data) codes.set((data.values as Int32Array).subarray(0, column.length));
  if (column.nullCount > 0) for (let i = 0; i < codes.length; i++) if (!column.isValid(i)) codes[i] = -1;
  return { ...readCut(field.name.slice('key '.length)), values, codes };
}

function readNumbers(column: Vector): Float64Array {
  const numbers = new Float64Array(column.length);
  if (column.data[0]) numbers.set((column.data[0].values as Float64Array).subarray(0, column.length));
  if (column.nullCount > 0)
    for (let i = 0; i < numbers.length; i++) if (!column.isValid(i)) numbers[i] = Number.NaN;
  return numbers;
}

/**
 * Reads a cube from Arrow IPC of one record batch. Columns named `key <cut>` are dictionary-coded dimensions,
 * columns named `atom <aggregate.field>` are doubles.
 */
export function cubeFromArrow(bytes: Uint8Array): Cube {
  const table = tableFromIPC(bytes);
  const cube: Cube = { cells: table.numRows, dimensions: [], atoms: [] };
  table.schema.fields.forEach((field, i) => {
    const column = table.getChildAt(i)!;
    if (field.name.startsWith('key ')) cube.dimensions.push(readDimension(field, column));
    else cube.atoms.push({ ...readAtom(field.name.slice('atom '.length)), values: readNumbers(column) });
  });
  return cube;
}
