import { ownNames } from '@sorvik/core/text/readings-json';
import type { ReadingsTable } from '@sorvik/core/text/readings-table';
import { bool, float64, tableFromArrays, tableToIPC, utf8 } from '@uwdata/flechette';
import writeXlsxFile from 'write-excel-file/browser';

const columnOf = ({ rows }: ReadingsTable, c: number) => rows.map((row) => row[c] ?? null);

const types = { number: float64, boolean: bool, text: utf8 };

/** What a column holds: the type that all its values are of, else text. */
function typeOf(values: readonly unknown[]): keyof typeof types {
  const kinds = new Set(values.filter((value) => value !== null).map((value) => typeof value));
  if (kinds.size === 1 && kinds.has('number')) return 'number';
  return kinds.size === 1 && kinds.has('boolean') ? 'boolean' : 'text';
}

/** The readings of a chart as a file of Arrow IPC. */
export function readingsArrow(table: ReadingsTable): Uint8Array {
  const columns = ownNames(table.names).map((name, c) => {
    const values = columnOf(table, c);
    const type = typeOf(values);
    const own = type === 'text' ? values.map((value) => (value === null ? null : String(value))) : values;
    return { name, type, values: own };
  });
  const made = tableFromArrays(
    columns.map(({ name, values }): [string, unknown[]] => [name, values]) as never,
    { types: Object.fromEntries(columns.map(({ name, type }) => [name, types[type]()])) },
  );
  return tableToIPC(made, { format: 'file' })!;
}

const day = /^\d{4}-\d{2}-\d{2}$/;

/** The readings of a chart as a spreadsheet: numbers are numbers, days are days, names are in bold. */
export function readingsXlsx({ names, rows }: ReadingsTable): Promise<Blob> {
  const head = names.map((value) => ({ value, fontWeight: 'bold' as const }));
  const body = rows.map((row) =>
    row.map((value) => {
      if (value === null) return null;
      if (typeof value === 'string' && day.test(value) && value >= '1900-03-01')
        return { value: new Date(`${value}T00:00:00Z`), type: Date, format: 'yyyy-mm-dd' };
      return {
        value,
        type: typeof value === 'number' ? Number : typeof value === 'boolean' ? Boolean : String,
      };
    }),
  );
  return writeXlsxFile([head, ...body] as never).toBlob();
}
