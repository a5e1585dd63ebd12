import { createReadStream } from 'node:fs';
import { setImmediate } from 'node:timers/promises';
import { type DataType, type Field, RecordBatchReader, Type } from 'apache-arrow';
import { tell } from '../../tell';
import { CsvWriter } from './csv-writer';
import { type ReadColumn, type TableFormat, UnreadableFile } from './format-kind';

const name = 'Arrow';

/** A value within a row that becomes a field: the way to it, and how it is written. */
interface Leaf {
  path: string[];
  column: ReadColumn;
  write(value: unknown): string | null;
  zoned: boolean;
}

const perSecond = [1n, 1000n, 1_000_000n, 1_000_000_000n];

/** A moment as text, of its number of units since 1970; the part of a second to six digits. */
function momentText(value: bigint, unit: number): string {
  const per = perSecond[unit]!;
  const seconds = value / per - (value % per < 0n ? 1n : 0n);
  const rest = value - seconds * per;
  const fraction = unit === 0 ? '' : `.${String((rest * 1_000_000n) / per).padStart(6, '0')}`;
  return `${new Date(Number(seconds) * 1000).toISOString().slice(0, 19).replace('T', ' ')}${fraction}`;
}

const dayText = (days: number) => new Date(days * 86_400_000).toISOString().slice(0, 10);

/** A whole number with a point so many digits from its end. */
function decimalText(value: bigint, scale: number): string {
  const digits = (value < 0n ? -value : value).toString().padStart(scale + 1, '0');
  const whole = digits.slice(0, digits.length - scale);
  return `${value < 0n ? '-' : ''}${whole}${scale ? `.${digits.slice(-scale)}` : ''}`;
}

/** The words of a decimal, least first, as one number. */
function decimalOf(words: Uint32Array): bigint {
  let value = 0n;
  for (let i = words.length - 1; i >= 0; i--) value = (value << 32n) | BigInt(words[i]!);
  return BigInt.asIntN(32 * words.length, value);
}

const text = (value: unknown) => String(value);

/** How values of a type are written; null for types that no field can have. */
function writerOf(type: DataType): (Pick<Leaf, 'write' | 'zoned'> & { is: ReadColumn['is'] }) | null {
  const plain = { zoned: false };
  const any = type as DataType & Record<string, never>;
  switch (type.typeId) {
    case Type.Null:
      return { ...plain, is: 'text', write: () => null };
    case Type.Int: {
      const { bitWidth, isSigned } = any as unknown as { bitWidth: number; isSigned: boolean };
      return { ...plain, is: bitWidth === 64 && !isSigned ? null : 'integer', write: text };
    }
    case Type.Float:
      return { ...plain, is: 'decimal', write: (value) => (Number.isFinite(value) ? String(value) : null) };
    case Type.Decimal: {
      const { scale } = any as unknown as { scale: number };
      return { ...plain, is: null, write: (value) => decimalText(decimalOf(value as Uint32Array), scale) };
    }
    case Type.Bool:
      return { ...plain, is: 'boolean', write: text };
    case Type.Utf8:
    case Type.LargeUtf8:
      return { ...plain, is: 'text', write: text };
    case Type.Date: {
      // Both units come out as ms.
      return { ...plain, is: 'date', write: (value) => dayText(Math.floor(Number(value) / 86_400_000)) };
    }
    case Type.Dictionary:
      return writerOf((any as unknown as { dictionary: DataType }).dictionary);
    default:
      return null;
  }
}

/** The values of a field, those inside it by their path; and the names of those that no field can have. */
function leavesOf(field: Field, path: string[]): { leaves: Leaf[]; out: string[] } {
  const here = [...path, field.name];
  if (field.type.typeId === Type.Struct) {
    const inside = (field.type.children as Field[]).map((child) => leavesOf(child, here));
    return { leaves: inside.flatMap(({ leaves }) => leaves), out: inside.flatMap(({ out }) => out) };
  }
  const moment = field.type.typeId === Type.Timestamp;
  const writer = moment ? momentWriter(field.type) : writerOf(field.type);
  if (!writer) return { leaves: [], out: [here.join('.')] };
  const { is, ...how } = writer;
  return { leaves: [{ path: here, column: { name: here.join('.'), is }, ...how }], out: [] };
}

function momentWriter(type: DataType) {
  const { unit, timezone } = type as unknown as { unit: number; timezone: string | null };
  // Read as whole numbers: as ms they would lose what is finer.
  return {
    is: 'datetime' as const,
    zoned: timezone !== null && timezone !== undefined,
    write: (value: unknown) => momentText(value as bigint, unit),
  };
}

/** Rows that are written before others get their turn. */
const atOnce = 2000;

interface Column {
  get(row: number): unknown;
}

/** The column of a leaf in a batch: what is inside others is reached through them; moments come as they are kept. */
function columnOf(batch: { getChild(name: string): unknown }, { path, column }: Leaf): Column {
  let vector = batch.getChild(path[0]!) as {
    get(row: number): unknown;
    getChild(name: string): unknown;
    isValid?(row: number): boolean;
    data: readonly {
      values: unknown;
      offset: number;
      stride?: number;
      length: number;
      getValid(row: number): boolean;
    }[];
  };
  const outer: (typeof vector)[] = [];
  for (const name of path.slice(1)) {
    outer.push(vector);
    vector = vector.getChild(name) as typeof vector;
  }
  const absent = (row: number) => outer.some((each) => each.get(row) === null);
  if (column.is !== 'datetime') return { get: (row) => (absent(row) ? null : vector.get(row)) };
  const [data] = vector.data;
  const values = data!.values as BigInt64Array;
  return { get: (row) => (absent(row) || !data!.getValid(row) ? null : values[row]!) };
}

/** Arrow IPC, as a file or as a stream. */
export const arrow: TableFormat = {
  name,
  is: (head) =>
    head.subarray(0, 6).toString('latin1') === 'ARROW1' ||
    (head.length > 8 && head.readUInt32LE(0) === 0xffffffff),
  asks: async () => [],
  async read({ path }, out) {
    try {
      const reader = await RecordBatchReader.from(createReadStream(path));
      await reader.open();
      const found = reader.schema.fields.map((field) => leavesOf(field, []));
      const leaves = found.flatMap((each) => each.leaves);
      const gone = found.flatMap((each) => each.out);
      if (!leaves.length) throw new UnreadableFile(tell('formats.noFields', { format: name }));
      const writer = new CsvWriter(out);
      await writer.write(leaves.map(({ column }) => column.name));
      for await (const batch of reader) {
        const columns = leaves.map((leaf) => columnOf(batch, leaf));
        for (let row = 0; row < batch.numRows; row++) {
          await writer.write(
            columns.map((column, c) => {
              const value = column.get(row);
              return value === null || value === undefined ? null : leaves[c]!.write(value);
            }),
          );
          if (row % atOnce === 0) await setImmediate();
        }
      }
      await writer.end();
      const zoned = leaves.filter((leaf) => leaf.zoned).map(({ column }) => column.name);
      return {
        columns: leaves.map(({ column }) => column),
        notes: [
          ...(gone.length ? [tell('formats.leftOut', { n: gone.length, fields: gone.join(', ') })] : []),
          ...(zoned.length ? [tell('formats.inUtc', { n: zoned.length, fields: zoned.join(', ') })] : []),
        ],
        unread: [],
      };
    } catch (error) {
      if (error instanceof UnreadableFile) throw error;
      throw new UnreadableFile(
        tell('formats.cannotBeRead', { format: name, why: (error as Error).message.slice(0, 300) }),
      );
    }
  },
};
