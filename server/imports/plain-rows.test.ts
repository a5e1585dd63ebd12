import { Readable } from 'node:stream';
import type { Reject } from '@sorvik/core/board/api-types';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type ColumnPlan, planColumns } from './column-plan';
import { readCsv } from './csv-rows';
import { rowEncoder, WiderColumn } from './load';
import { type Newline, PlainRows, plainNewline } from './plain-rows';
import { readable } from './text-file';

const plansOf = (...types: ColumnPlan['type'][]): ColumnPlan[] =>
  types.map((type, i) => ({ ...planColumns([`c${i}`], [[]], ',')[0]!, type }));
const plans = plansOf('text', 'integer', 'decimal', 'date', 'datetime', 'boolean');

interface Taken {
  lines: string;
  rejects: Omit<Reject, 'reason'>[];
  wider: string | null;
}

/** What becomes of rows, as both ways of reading a file use it. */
function taking(columns: readonly ColumnPlan[]) {
  const encode = rowEncoder(columns);
  const rejects: Taken['rejects'] = [];
  let head = true;
  return {
    rejects,
    lineOf(row: string[], line: number): string | null {
      if (row.length === 1 && row[0]!.trim() === '' && (columns.length > 1 || row[0] === '')) return null;
      if (head) {
        head = false;
        return null;
      }
      const encoded = encode(row, line, false);
      if (typeof encoded === 'string') return encoded;
      rejects.push({ line: encoded.line, column: encoded.column, cells: encoded.cells });
      return null;
    },
  };
}

/** What a parser makes of a file. */
async function parsed(text: string, columns: readonly ColumnPlan[]): Promise<Taken> {
  const { rejects, lineOf } = taking(columns);
  let lines = '';
  let place = 0;
  try {
    const bytes = Buffer.from(text).toString('latin1');
    await readCsv(Readable.from([bytes]), ',', ({ rows, lines: numbers }) => {
      rows.forEach((row, i) => {
        const line = lineOf(row, numbers[i]!);
        if (line !== null) lines += `${line}\t${place++}\n`;
      });
    });
  } catch (error) {
    if (!(error instanceof WiderColumn)) throw error;
    return { lines: '', rejects: [], wider: `${error.index} ${error.plan.type}` };
  }
  return { lines: readable(lines), rejects, wider: null };
}

/** What is made of it byte by byte, in pieces of a size; and of how many rows a closer look was taken. */
function copied(text: string, columns: readonly ColumnPlan[], size: number, newline: Newline) {
  const { rejects, lineOf } = taking(columns);
  let looked = 0;
  let place = 0;
  const rows = new PlainRows(
    columns,
    ',',
    newline,
    () => place++,
    (line, number) => {
      looked++;
      return lineOf(line.split(','), number);
    },
  );
  const bytes = Buffer.from(text);
  const pieces: Buffer[] = [];
  try {
    for (let at = 0; at < bytes.length; at += size)
      pieces.push(Buffer.from(rows.take(bytes.subarray(at, at + size))));
    pieces.push(Buffer.from(rows.end()));
  } catch (error) {
    if (!(error instanceof WiderColumn)) throw error;
    return { taken: { lines: '', rejects: [], wider: `${error.index} ${error.plan.type}` }, looked };
  }
  return { taken: { lines: Buffer.concat(pieces).toString(), rejects, wider: null }, looked };
}

const cells: fc.Arbitrary<string>[] = [
  fc.constantFrom(
    'Quel – Ostrin',
    'Ärmel 🚢',
    '',
    ' leads',
    'trails ',
    'back\\slash',
    '\\N',
    'tab\there',
    'a',
    '\u007f',
    '  ',
  ),
  fc.oneof(
    fc.integer().map(String),
    fc.constantFrom('', '-', '+7', '007', '-0', '999999999999999', '1 ', '--1'),
  ),
  fc.oneof(
    fc.double({ noNaN: true, noDefaultInfinity: true }).map(String),
    fc.constantFrom('', '.5', '5.', '-.5', '1.2.3', '-12.50', '123456789012345.678', '1e5', '.', ' 1.5'),
  ),
  fc.constantFrom(
    '',
    '2024-02-29',
    '2023-02-29',
    '2024-02-28',
    '2024-04-31',
    '2024-12-31',
    '0000-01-01',
    '0999-10-09',
    '2024-1-5',
    '2024/01/05',
    '2024-01-05 ',
    '2024-13-01',
  ),
  fc.constantFrom(
    '',
    '2024-02-28T10:00:00',
    '2024-02-28 23:59:59',
    '2024-02-28 24:00:00',
    '2024-02-28T10:00',
    '2024-02-28T10:00:00Z',
    '2024-02-28T10:00:00.25',
    '2024-02-28',
    '2024-02-28x10:00:00',
  ),
  fc.constantFrom('', 'true', 'false', 'yes', 'N'),
];
const row = fc.oneof(
  { weight: 12, arbitrary: fc.tuple(...cells).map((each) => each.join(',')) },
  { weight: 1, arbitrary: fc.constantFrom('', '   ', 'a,b', 'a,1,2,2024-01-01,,,', ',,,,,') },
);
const file = (newline: Newline) =>
  fc
    .tuple(fc.array(row, { maxLength: 30 }), fc.boolean())
    .map(([rows, ended]) => `${['a,b,c,d,e,f', ...rows].join(newline)}${ended ? newline : ''}`);

describe.each(['\n', '\r\n'] as const)('a file whose rows end in %j', (newline) => {
  it('becomes the same lines byte by byte as by a parser, in pieces of whatever size', async () => {
    await fc.assert(
      fc.asyncProperty(file(newline), fc.integer({ min: 1, max: 200 }), async (text, size) => {
        expect(copied(text, plans, size, newline).taken).toEqual(await parsed(text, plans));
      }),
      { numRuns: 400 },
    );
  });
});

it('takes no closer look at rows that stand as they are sent on', () => {
  const columns = plansOf('text', 'integer', 'decimal', 'date', 'datetime');
  const rows = 'Quel – Ostrin,-12,3.50,2024-03-31,2024-03-31T07:45:00\n,,,,\n';
  const { taken, looked } = copied(`h,h,h,h,h\n${rows}`, columns, 7, '\n');
  expect(looked).toBe(1);
  expect(taken.lines).toBe(
    'Quel – Ostrin\t-12\t3.50\t2024-03-31\t2024-03-31 07:45:00\t0\n\\N\t\\N\t\\N\t\\N\t\\N\t1\n',
  );
});

it('is for files without quotes whose rows all end alike', () => {
  const of = (text: string) => plainNewline(Buffer.from(text));
  expect(of('a,b\n1,2\n')).toBe('\n');
  expect(of('a,b')).toBe('\n');
  expect(of('a,b\r\n1,2\r\n')).toBe('\r\n');
  expect(of('a,b\r\n1,2\r')).toBe('\r\n');
  for (const text of ['a,"b"\n', 'a\r1\r', 'a\r\n1\n', 'a\n1\r\n', 'a\rb\r\n'])
    expect(of(text), text).toBeNull();
});
