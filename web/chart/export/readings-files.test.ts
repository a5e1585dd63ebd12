import * as XLSX from '@e965/xlsx';
import { tableFromIPC } from 'apache-arrow';
import { expect, it } from 'vitest';
import { readingsArrow, readingsXlsx } from './readings-files';

const table = {
  names: ['quay', 'day', 'open', 'tons', 'tons', 'state'],
  rows: [
    ['Quel, "old" 🌊', '2024-03-01', true, 1.5, null, 'lit'],
    [null, '1893-01-02', null, -2, 1e15, 'muted'],
  ],
};

it('readings are an Arrow file that another reader takes, with a type for each column', () => {
  const read = tableFromIPC(readingsArrow(table));
  expect(read.schema.fields.map(({ name, type }) => `${name} ${type}`)).toEqual([
    'quay Utf8',
    'day Utf8',
    'open Bool',
    'tons Float64',
    'tons (2) Float64',
    'state Utf8',
  ]);
  expect(Array.from(read, (row) => Object.values(row!.toJSON()))).toEqual(table.rows);
});

it('readings are a spreadsheet that another reader takes: numbers as numbers, days as days', async () => {
  const blob = await readingsXlsx(table);
  const book = XLSX.read(await blob.arrayBuffer(), { cellDates: true, UTC: true });
  const rows = XLSX.utils.sheet_to_json<unknown[]>(book.Sheets[book.SheetNames[0]!]!, {
    header: 1,
    UTC: true,
    defval: null,
  });
  expect(rows[0]).toEqual(table.names);
  expect(rows[1]).toEqual(['Quel, "old" 🌊', new Date('2024-03-01T00:00:00Z'), true, 1.5, null, 'lit']);
  // Before 1900 a spreadsheet has no days.
  expect(rows[2]).toEqual([null, '1893-01-02', null, -2, 1e15, 'muted']);
});
