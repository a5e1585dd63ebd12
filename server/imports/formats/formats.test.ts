import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { gzipSync } from 'node:zlib';
import { DuckDBInstance } from '@duckdb/node-api';
import * as XLSX from '@e965/xlsx';
import {
  Bool,
  DateDay,
  Decimal,
  Field,
  Int64,
  makeData,
  makeVector,
  RecordBatch,
  Schema,
  Struct,
  Table,
  TimestampMicrosecond,
  tableFromArrays,
  tableToIPC,
  Utf8,
  vectorFromArray,
} from 'apache-arrow';
import { parquetWriteBuffer } from 'hyparquet-writer';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import yazl from 'yazl';
import { type TestApp, testApp } from '../../testing/test-app';

let t: TestApp;
let folder: string;

beforeAll(async () => {
  t = await testApp();
  folder = mkdtempSync(join(tmpdir(), 'sorvik-formats-'));
});
afterAll(async () => {
  await t.close();
  rmSync(folder, { recursive: true, force: true });
});

type Content = string | Uint8Array;

/** What becomes of a file: its fields and rows; answers are given where they are asked for. */
async function imported(name: string, content: Content, answers?: Record<string, string>) {
  let job = await t.importCsv(content, name);
  if (job.state === 'asking' && answers) {
    const given = await t.send('POST', `/api/imports/${job.id}/answers`, { answers });
    expect(given.status, JSON.stringify(given.body)).toBe(202);
    job = await t.settled(job.id);
  }
  if (job.state !== 'done') return { job, fields: [], rows: [], notes: [] };
  const { body } = await t.json(`/api/datasets/${job.dataset}`);
  const { body: page } = await t.json(`/api/datasets/${job.dataset}/rows`);
  return {
    job,
    fields: body.fields.map(
      ({ name: field, type }: { name: string; type: string }) => `${field} ${type}`,
    ) as string[],
    rows: page.rows as unknown[][],
    notes: body.source.notes as string[],
    dataset: body,
  };
}

const zipOf = (files: Record<string, Content | Readable>): Promise<Buffer> =>
  new Promise((done) => {
    const zip = new yazl.ZipFile();
    for (const [name, content] of Object.entries(files))
      if (content instanceof Readable) zip.addReadStream(content, name);
      else zip.addBuffer(Buffer.from(content as Content), name);
    zip.end();
    const parts: Buffer[] = [];
    zip.outputStream
      .on('data', (part: Buffer) => parts.push(part))
      .on('end', () => done(Buffer.concat(parts)));
  });

const bookOf = (
  sheets: Record<string, unknown[][]>,
  type: 'xlsx' | 'ods' = 'xlsx',
  touch?: (sheet: XLSX.WorkSheet) => void,
) => {
  const book = XLSX.utils.book_new();
  for (const [name, rows] of Object.entries(sheets)) {
    const sheet = XLSX.utils.aoa_to_sheet(rows, { UTC: true, dateNF: 'yyyy-mm-dd' });
    touch?.(sheet);
    XLSX.utils.book_append_sheet(book, sheet, name);
  }
  return new Uint8Array(XLSX.write(book, { type: 'array', bookType: type, compression: true }));
};

/** A Parquet file as the column store writes it. */
async function parquetOf(select: string): Promise<Uint8Array> {
  const path = join(folder, `${Math.random()}.parquet`);
  const connection = await (await DuckDBInstance.create(':memory:')).connect();
  await connection.run(`COPY (${select}) TO '${path}' (FORMAT parquet)`);
  connection.closeSync();
  return readFileSync(path);
}

describe('Parquet', () => {
  it('keeps types, nulls, names in all scripts, days before 1970, and text that looks like numbers', async () => {
    const { fields, rows } = await imported(
      'Quays.parquet',
      new Uint8Array(
        parquetWriteBuffer({
          columnData: [
            { name: 'Quay ⚓', data: ['Quel, "old"', null, '007'], type: 'STRING' },
            { name: 'tons', data: [1.5, null, -2], type: 'DOUBLE' },
            { name: 'count', data: [9007199254740993n, null, -5n], type: 'INT64' },
            { name: 'open', data: [true, null, false], type: 'BOOLEAN' },
            {
              name: 'at',
              data: [new Date('1961-04-12T06:07:08.250Z'), null, new Date('2024-02-29T00:00:00Z')],
              type: 'TIMESTAMP',
            },
          ],
        }),
      ),
    );
    expect(fields).toEqual(['Quay ⚓ text', 'tons decimal', 'count text', 'open boolean', 'at datetime']);
    // A number with more digits than a number keeps is a text, to its last digit.
    expect(rows[0]).toEqual(['Quel, "old"', 1.5, '9007199254740993', true, '1961-04-12T06:07:08.25']);
    expect(rows[1]).toEqual([null, null, null, null, null]);
    expect(rows[2]).toEqual(['007', -2, '-5', false, '2024-02-29T00:00:00']);
  });

  it('makes fields of nested values, rows of a list if that is wanted, and says what it leaves out', async () => {
    const file =
      await parquetOf(`SELECT 'Quel' AS quay, {'day': DATE '1969-07-20', 'of': {'wind': 3.25::DECIMAL(9,2)}} AS seen, [10, 20] AS loads, MAP {'a': 1} AS more
      UNION ALL SELECT 'Ness', NULL, [], NULL`);
    const asked = await t.importCsv(file, 'Nested.parquet');
    expect(asked).toMatchObject({
      state: 'asking',
      questions: [{ column: 'loads', asks: 'list', examples: ['[10, 20]'] }],
    });
    const { fields, rows, notes } = await imported('Nested.parquet', file, { loads: 'rows' });
    expect(fields).toEqual(['quay text', 'seen.day date', 'seen.of.wind decimal', 'loads integer']);
    expect(rows).toEqual([
      ['Quel', '1969-07-20', 3.25, 10],
      ['Quel', '1969-07-20', 3.25, 20],
      ['Ness', null, null, null],
    ]);
    expect(notes).toEqual(['The field more is left out: no dataset can hold its values.']);
    const plain = await imported('Nested.parquet', file, { loads: 'out' });
    expect(plain.fields).toEqual(['quay text', 'seen.day date', 'seen.of.wind decimal']);
    expect(plain.rows).toHaveLength(2);
  });

  it('that lies about its sizes, or is cut off, is refused in a sentence', async () => {
    const file = Buffer.from(await parquetOf('SELECT i AS n, i * 2 AS m FROM range(5000) AS t(i)'));
    for (const damage of [
      (bytes: Buffer) => bytes.subarray(0, bytes.length - 200),
      (bytes: Buffer) => {
        bytes.writeUInt32LE(0x7fffffff, bytes.length - 8);
        return bytes;
      },
      (bytes: Buffer) => bytes.fill(0xff, 30, 400),
      (bytes: Buffer) => bytes.fill(0x7f, bytes.length - 150, bytes.length - 60),
    ]) {
      const { job } = await imported('Broken.parquet', damage(Buffer.from(file)));
      expect(job.state).toBe('failed');
      expect(job.message).toMatch(/cannot be read as Parquet|damaged/);
    }
  });
});

describe('JSON', () => {
  it('is read as a list of records: nested values are fields, texts stay texts, days are days', async () => {
    const { fields, rows } = await imported(
      'Records.json',
      JSON.stringify([
        {
          id: '007',
          day: '1968-12-24',
          at: { quay: 'Quel', "o'clock": '2024-03-01T10:00:00' },
          n: 3,
          open: true,
        },
        { id: '12', day: null, at: { quay: '🌊 "Ness"' }, n: 4.5, open: null, late: 'only here' },
      ]),
    );
    expect(fields).toEqual([
      'id text',
      'day date',
      'at.quay text',
      "at.o'clock datetime",
      'n decimal',
      'open boolean',
      'late text',
    ]);
    expect(rows).toEqual([
      ['007', '1968-12-24', 'Quel', '2024-03-01T10:00:00', 3, true, null],
      ['12', null, '🌊 "Ness"', null, 4.5, null, 'only here'],
    ]);
  });

  it('with a record a line sets lines aside that are none', async () => {
    const { job, rows } = await imported(
      'Lines.ndjson',
      '{"a":1,"b":"x"}\n{"a":2,\n[3]\n\n{"a":4,"b":"y"}\n',
    );
    expect(rows).toEqual([
      [1, 'x'],
      [4, 'y'],
    ]);
    expect(job.rejected).toBe(2);
    const { body } = await t.json(`/api/datasets/${job.dataset}/rejects`);
    expect(body.rejects).toMatchObject([
      { line: 2, reason: 'the line is not JSON', cells: ['{"a":2,'] },
      { line: 3, reason: 'the line is no record' },
    ]);
  });

  it('keeps every digit of whole numbers that are larger than a number can be', async () => {
    const { fields, rows } = await imported(
      'Huge.ndjson',
      '{"n":9007199254740993}\n{"n":123456789012345678901234567890}\n',
    );
    expect(fields).toEqual(['n text']);
    expect(rows).toEqual([['9007199254740993'], ['123456789012345678901234567890']]);
  });

  it.each([
    ['deeper than any table', `${'['.repeat(10_000)}${']'.repeat(10_000)}`, /deeper than 64 levels/],
    ['deep in a line', `{"a":${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}}\n`, /deeper than 64 levels/],
    ['cut off', '[{"a":1},{"a":', /cannot be read as JSON/],
    ['no records at all', '{"a"\n{"b"\n', /cannot be read as JSON|No line/],
  ])('%s is refused', async (_what, content, reason) => {
    const { job } = await imported('Odd.json', content);
    expect(job).toMatchObject({ state: 'failed' });
    expect(job.message).toMatch(reason);
  });
});

describe('Arrow', () => {
  // To the last digit, as whole numbers of the unit.
  const moments = makeVector(
    makeData({
      type: new TimestampMicrosecond(),
      length: 3,
      nullCount: 1,
      nullBitmap: new Uint8Array([0b101]),
      data: new BigInt64Array([-1_500_000_000_123_456n, 0n, 0n]),
    }),
  );
  const table = () =>
    new Table({
      quay: vectorFromArray(['Quel', null, '007'], new Utf8()),
      day: vectorFromArray([new Date('1969-07-20'), null, new Date('2024-02-29')], new DateDay()),
      at: moments,
      n: vectorFromArray([9007199254740993n, null, -1n], new Int64()),
      open: vectorFromArray([true, null, false], new Bool()),
    });

  it.each(['file', 'stream'] as const)('is read as a %s', async (format) => {
    const { fields, rows } = await imported('Quays.arrow', tableToIPC(table(), format));
    expect(fields).toEqual(['quay text', 'day date', 'at datetime', 'n text', 'open boolean']);
    expect(rows[1]).toEqual([null, null, null, null, null]);
    expect(rows[2]).toEqual(['007', '2024-02-29', '1970-01-01T00:00:00', '-1', false]);
    expect(rows[0]!.slice(0, 3)).toEqual(['Quel', '1969-07-20', '1922-06-20T21:19:59.876544']);
  });

  it('reads decimals to their last digit, nested values and coded texts', async () => {
    const decimals = vectorFromArray(
      [new Uint32Array([12345, 0, 0, 0]), new Uint32Array([0xffffffff, 0xffffffff, 0xffffffff, 0xffffffff])],
      new Decimal(2, 10),
    );
    const inner = new Struct([new Field('wind', new Utf8(), true)]);
    const place = makeData({
      type: inner,
      length: 2,
      nullCount: 0,
      children: [vectorFromArray(['calm', null], new Utf8()).data[0]!],
    });
    const schema = new Schema([new Field('price', decimals.type, true), new Field('seen', inner, true)]);
    const batch = new RecordBatch(
      schema,
      makeData({
        type: new Struct(schema.fields),
        length: 2,
        nullCount: 0,
        children: [decimals.data[0]!, place],
      }),
    );
    const { fields, rows } = await imported('Prices.arrows', tableToIPC(new Table([batch])));
    expect(fields).toEqual(['price decimal', 'seen.wind text']);
    expect(rows).toEqual([
      [123.45, 'calm'],
      [-0.01, null],
    ]);
    // Texts that are told by numbers are what arrays become.
    const coded = await imported('Coded.arrow', tableToIPC(tableFromArrays({ quay: ['a', 'b', 'a'] })));
    expect(coded.rows).toEqual([['a'], ['b'], ['a']]);
  });

  it('that is cut off is refused', async () => {
    const { job } = await imported('Cut.arrow', tableToIPC(table(), 'file').subarray(0, 300));
    expect(job.state).toBe('failed');
    expect(job.message).toMatch(/cannot be read as Arrow|damaged|no rows|heading/i);
  });
});

describe('spreadsheets', () => {
  const day = (text: string) => new Date(`${text}T00:00:00Z`);

  it.each(['xlsx', 'ods'] as const)(
    '%s: days are days, numbers as they are kept, texts texts, formulas their values',
    async (type) => {
      const rows = [
        ['Quay', 'Code', 'Day', 'Tons', 'Open'],
        ['Quel', '007', day('1969-07-20'), 0.1, true],
        ['Ness "old" 🌊', '12', day('2024-02-29'), 1234567.25, false],
      ];
      const file = bookOf({ Landings: rows }, type, (sheet) => {
        sheet.D3 = { t: 'n', v: 1234567.25, f: 'SUM(1234567,0.25)' };
      });
      const { fields, rows: found, dataset } = await imported(`Landings.${type}`, file);
      expect(fields).toEqual(['Quay text', 'Code text', 'Day date', 'Tons decimal', 'Open boolean']);
      expect(found).toEqual([
        ['Quel', '007', '1969-07-20', 0.1, true],
        ['Ness "old" 🌊', '12', '2024-02-29', 1234567.25, false],
      ]);
      expect(dataset.source.format).toBe('spreadsheet');
    },
  );

  it('asks which sheet, which row names the columns and about rows that add up others', async () => {
    const file = bookOf({
      Notes: [['nothing here']],
      Plan: [
        ['a', 'b'],
        [1, 2],
      ],
      Landings: [['Landings of the sound'], [], ['Quay', 'Tons'], ['Quel', 3], ['Ness', 4], ['Total', 7]],
    });
    const asked = await t.importCsv(file, 'Book.xlsx');
    expect(asked.questions).toMatchObject([
      { column: '#sheet', options: [{ answer: 'Plan' }, { answer: 'Landings', reads: ['Quay', 'Tons'] }] },
      {
        column: '#heading Landings',
        within: { column: '#sheet', answer: 'Landings' },
        options: [{ answer: '3', reads: ['Quay', 'Tons'] }, { answer: '1' }, { answer: '4' }],
      },
      { column: '#totals Landings', examples: ['Total · 7'] },
    ]);
    const { fields, rows, notes } = await imported('Book.xlsx', file, {
      '#sheet': 'Landings',
      '#heading Landings': '3',
      '#totals Landings': 'out',
    });
    expect(fields).toEqual(['Quay text', 'Tons integer']);
    expect(rows).toEqual([
      ['Quel', 3],
      ['Ness', 4],
    ]);
    expect(notes).toEqual(['One row that adds up others is left out.']);
    expect((await imported('Book.xlsx', file, { '#sheet': 'Plan' })).rows).toEqual([[1, 2]]);
  });

  it('puts what stands over several columns in front of their names, and takes errors as empty', async () => {
    const file = bookOf(
      {
        Wide: [
          [null, 'Quel', null, 'Ness', null],
          ['Day', 'in', 'out', 'in', 'out'],
          [day('2024-03-01'), 1, 2, 3, 4],
          [day('2024-03-02'), 5, 6, 7, 8],
        ],
      },
      'xlsx',
      (sheet) => {
        sheet['!merges'] = [
          { s: { r: 0, c: 1 }, e: { r: 0, c: 2 } },
          { s: { r: 0, c: 3 }, e: { r: 0, c: 4 } },
        ];
        sheet.E4 = { t: 'e', v: 7 };
      },
    );
    const { fields, rows, notes } = await imported('Wide.xlsx', file, { '#heading': '2' });
    expect(fields).toEqual([
      'Day date',
      'Quel in integer',
      'Quel out integer',
      'Ness in integer',
      'Ness out integer',
    ]);
    expect(rows[1]).toEqual(['2024-03-02', 5, 6, 7, null]);
    expect(notes).toEqual(['One cell holds an error and is taken as empty.']);
  });

  it('of a million rows without anything in them is refused, and so is a damaged one', async () => {
    const sheet = { '!ref': 'A1:C1048576', A1: { t: 's', v: 'Name' } };
    const book = { SheetNames: ['Empty'], Sheets: { Empty: sheet } } as unknown as XLSX.WorkBook;
    const { job } = await imported(
      'Empty.xlsx',
      new Uint8Array(XLSX.write(book, { type: 'array', bookType: 'xlsx' })),
    );
    expect(job).toMatchObject({
      state: 'failed',
      message: 'No sheet of the file has a heading and rows below it.',
    });
    const whole = Buffer.from(bookOf({ A: [['a'], [1]] }));
    const damaged = await imported('Damaged.xlsx', whole.subarray(0, whole.length - 40));
    expect(damaged.job.message).toMatch(/cannot be read|damaged|unknown|no format/);
  });
});

describe('packed files', () => {
  it('are unpacked, whatever they hold', async () => {
    expect((await imported('a.csv.gz', gzipSync('a;b\n1;x\n2;y\n'))).rows).toEqual([
      [1, 'x'],
      [2, 'y'],
    ]);
    const parquet = await parquetOf('SELECT 1 AS n');
    expect(
      (await imported('p.zip', await zipOf({ 'in/p.parquet': parquet, '__MACOSX/p': 'x' }))).rows,
    ).toEqual([[1]]);
    expect((await imported('j.json.gz', gzipSync('[{"a":"b"}]'))).rows).toEqual([['b']]);
    const latin = Buffer.from('naam;n\nCaf\xe9;1\n', 'latin1');
    expect((await imported('l.csv.gz', gzipSync(latin))).rows).toEqual([['Café', 1]]);
  });

  it('of one shape become one dataset, with their names if that is wanted', async () => {
    const file = await zipOf({ 'jan.csv': 'quay,n\nQuel,1\n', 'feb.csv': 'n,quay\n2,Ness\n' });
    const asked = await t.importCsv(file, 'Months.zip');
    expect(asked.questions).toMatchObject([{ column: '#files', examples: ['jan.csv', 'feb.csv'] }]);
    const { fields, rows, notes } = await imported('Months.zip', file, { '#files': 'named' });
    expect(fields).toEqual(['File text', 'quay text', 'n integer']);
    expect(rows).toEqual([
      ['jan.csv', 'Quel', 1],
      ['feb.csv', 'Ness', 2],
    ]);
    expect(notes).toEqual(['Rows of 2 files.']);
    const odd = await zipOf({ 'jan.csv': 'quay,n\nQuel,1\n', 'feb.csv': 'x,y\n2,Ness\n' });
    const { job } = await imported('Odd.zip', odd, { '#files': 'plain' });
    expect(job.message).toContain('feb.csv has other columns than jan.csv: quay, n');
  });

  it('that unpack to very much are given up, and what is cut off is refused', async () => {
    // Zeros pack a thousandfold: a workbook of 2 MB would unpack to 2 GB.
    const zeros = Buffer.alloc(1_000_000);
    const bomb = await zipOf({ 'xl/workbook.xml': Readable.from(Array.from({ length: 1200 }, () => zeros)) });
    expect(bomb.length).toBeLessThan(3_000_000);
    const { job } = await imported('Bomb.xlsx', bomb);
    expect(job.message).toMatch(/unpacks to more than 1,024 MB/);
    const cut = await imported('Cut.csv.gz', gzipSync('a,b\n1,2\n'.repeat(1000)).subarray(0, 30));
    expect(cut.job.message).toMatch(/cannot be read as gzip/);
    const picture = await imported('picture.gz', gzipSync(Buffer.from([0x89, 0x50, 0, 0, 1, 2, 0, 3])));
    expect(picture.job.message).toMatch(/picture is of no format/);
  });
});

it('an import of another format can be cancelled, and leaves nothing', async () => {
  const big = gzipSync(`a,b\n${'1,2\n'.repeat(2_000_000)}`);
  const { body } = await t.upload('Big.csv.gz', big);
  await t.send('DELETE', `/api/imports/${body.id}`);
  expect((await t.settled(body.id)).state).toBe('cancelled');
  await expect
    .poll(async () =>
      (await import('node:fs')).readdirSync(t.spool).filter((name) => name.startsWith(body.id)),
    )
    .toEqual([]);
});
