import { readdir } from 'node:fs/promises';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
beforeAll(async () => {
  t = await testApp();
});
afterAll(() => t.close());

const dataset = async (id: string) => (await t.json(`/api/datasets/${id}`)).body;
const rows = async (id: string) => (await t.json(`/api/datasets/${id}/rows`)).body.rows;
const types = async (id: string) => (await dataset(id)).fields.map((field: { type: string }) => field.type);
const tables = async () =>
  (await t.database.pool.query("SELECT count(*) AS n FROM pg_tables WHERE schemaname = 'data'")).rows[0].n;

describe('what a file may look like', () => {
  it.each([
    ['comma', ','],
    ['semicolon', ';'],
    ['tab', '\t'],
    ['bar', '|'],
  ])('is parted by %s', async (name, mark) => {
    const text = [
      ['quay', 'boats', 'open'],
      ['Quel', '3', 'true'],
      ['Harl', '', 'false'],
    ]
      .map((row) => row.join(mark))
      .join('\n');
    const done = await t.importCsv(text);
    expect(done).toMatchObject({ state: 'done', rows: 2, rejected: 0 });
    expect(await types(done.dataset!)).toEqual(['text', 'integer', 'boolean']);
    expect(await rows(done.dataset!)).toEqual([
      ['Quel', 3, true],
      ['Harl', null, false],
    ]);
    expect((await dataset(done.dataset!)).source.separator).toBe(name);
  });

  it('has quotes, separators and line breaks in cells, a byte order mark and CRLF', async () => {
    const done = await t.importCsv('\ufeffquay,note\r\n"Quel","one, ""two""\r\nthree"\r\nHarl,"x"\r\n');
    expect(await rows(done.dataset!)).toEqual([
      ['Quel', 'one, "two"\r\nthree'],
      ['Harl', 'x'],
    ]);
  });

  it('keeps what COPY would take for its own marks', async () => {
    const done = await t.importCsv('a,b\n\\N,\\.\nx\\ty,\\\\\n');
    expect(await rows(done.dataset!)).toEqual([
      ['\\N', '\\.'],
      ['x\\ty', '\\\\'],
    ]);
  });

  it('is in Latin-1', async () => {
    const done = await t.importCsv(Buffer.from('kai;anzahl\nM\xf6wen\xfe;1\n\x80uro;2\n', 'latin1'));
    expect(await rows(done.dataset!)).toEqual([
      ['Möwenþ', 1],
      ['€uro', 2],
    ]);
    expect((await dataset(done.dataset!)).source.encoding).toBe('windows-1252');
  });

  it('is in UTF-16 with its mark', async () => {
    const done = await t.importCsv(Buffer.from('\ufeffquay,n\nÖst,1\n', 'utf16le'));
    expect(await rows(done.dataset!)).toEqual([['Öst', 1]]);
  });

  it('keeps long digit strings and codes with leading zeros as text', async () => {
    const done = await t.importCsv('code,card\n007,12345678901234567890\n120,12345678901234567891\n');
    expect(await types(done.dataset!)).toEqual(['text', 'text']);
  });
});

describe('numbers and dates', () => {
  it('reads decimal commas and thousands marks', async () => {
    const done = await t.importCsv('a;b;c\n1.234,5;12,25;1.000.000\n-2,0;3;2.500\n');
    expect(await types(done.dataset!)).toEqual(['decimal', 'decimal', 'integer']);
    expect(await rows(done.dataset!)).toEqual([
      [1234.5, 12.25, 1_000_000],
      [-2, 3, 2500],
    ]);
  });

  it('reads decimal points with commas between thousands', async () => {
    const done = await t.importCsv('a\tb\n1,234.5\t1,000\n7.25\t12,000,000\n');
    expect(await rows(done.dataset!)).toEqual([
      [1234.5, 1000],
      [7.25, 12_000_000],
    ]);
  });

  it('reads dates that leave no doubt', async () => {
    const done = await t.importCsv(
      'a,b,c,d\n2021-03-04,25/12/2021,12/25/2021,4.3.2021\n2021-12-31,01/02/2022,01/02/2022,5.3.2021\n',
    );
    expect(await types(done.dataset!)).toEqual(['date', 'date', 'date', 'date']);
    expect(await rows(done.dataset!)).toEqual([
      ['2021-03-04', '2021-12-25', '2021-12-25', '2021-03-04'],
      ['2021-12-31', '2022-02-01', '2022-01-02', '2021-03-05'],
    ]);
  });

  it('reads date-times, with halves of the day and offsets', async () => {
    const done = await t.importCsv(
      'a,b\n2021-03-04T05:06:07,2021-03-04 11:30 PM\n2021-03-04 23:00+02:00,2021-03-04 12:05 am\n',
    );
    expect(await rows(done.dataset!)).toEqual([
      ['2021-03-04T05:06:07', '2021-03-04T23:30:00'],
      ['2021-03-04T21:00:00', '2021-03-04T00:05:00'],
    ]);
  });

  it('asks when day and month could change places, and takes the answer', async () => {
    const { body } = await t.upload('Sailings.csv', 'on,n\n01/02/2021,1\n03/04/2021,2\n');
    expect(body).toMatchObject({
      state: 'asking',
      questions: [
        {
          column: 'on',
          asks: 'dates',
          examples: ['01/02/2021', '03/04/2021'],
          options: [
            { answer: 'dmy', reads: ['1 Feb 2021', '3 Apr 2021'] },
            { answer: 'mdy', reads: ['2 Jan 2021', '4 Mar 2021'] },
          ],
        },
      ],
    });
    const incomplete = await t.send('POST', `/api/imports/${body.id}/answers`, { answers: {} });
    expect(incomplete.status).toBe(422);
    expect(incomplete.body.detail).toContain('on');
    const wrong = await t.send('POST', `/api/imports/${body.id}/answers`, { answers: { on: 'whenever' } });
    expect(wrong.status).toBe(422);
    await t.send('POST', `/api/imports/${body.id}/answers`, { answers: { on: 'dmy' } });
    const done = await t.settled(body.id);
    expect(await rows(done.dataset!)).toEqual([
      ['2021-02-01', 1],
      ['2021-04-03', 2],
    ]);
    expect((await t.send('POST', `/api/imports/${body.id}/answers`, { answers: { on: 'dmy' } })).status).toBe(
      409,
    );
  });
});

describe('numbers', () => {
  it.each([
    [
      'k;share\na;0.645\nb;0.658\n',
      [
        ['a', 0.645],
        ['b', 0.658],
      ],
    ],
    [
      'k,share\na,"0,645"\nb,"0,658"\n',
      [
        ['a', 0.645],
        ['b', 0.658],
      ],
    ],
    [
      'k;share\na;0,645\nb;1.234,5\n',
      [
        ['a', 0.645],
        ['b', 1234.5],
      ],
    ],
    [
      'k;n\na;1.234.567\nb;2\n',
      [
        ['a', 1234567],
        ['b', 2],
      ],
    ],
    [
      'k;n\na;0.5\nb;1.500\n',
      [
        ['a', 0.5],
        ['b', 1.5],
      ],
    ],
    [
      'k;n\na;-0.125\nb;-0.250\n',
      [
        ['a', -0.125],
        ['b', -0.25],
      ],
    ],
  ])('of %j leave no doubt: a group never begins with 0', async (file, expected) => {
    const done = await t.importCsv(file);
    expect(done.state).toBe('done');
    expect(await rows(done.dataset!)).toEqual(expected);
  });

  it.each([
    ['k;n\na;1.500\nb;2.250\n', ',', [1500, 2250]],
    ['k;n\na;1.500\nb;2.250\n', '.', [1.5, 2.25]],
    ['k,n\na,"1,500"\nb,"2,250"\n', '.', [1500, 2250]],
    ['k,n,m\na,"1,500","1.234,5"\nb,"2,250","7,25"\n', ',', [1.5, 2.25]],
    [
      `k,n\n${Array.from({ length: 40 }, (_, i) => `q${i},${i === 7 ? 'soon' : '1.500'}`).join('\n')}\n`,
      '.',
      null,
    ],
  ] as const)('that could be thousands or decimals are asked about: %j', async (file, answer, expected) => {
    const { body } = await t.upload('Shares.csv', file);
    expect(body.state).toBe('asking');
    expect(body.questions).toHaveLength(1);
    const [{ asks, options, examples }] = body.questions;
    expect(asks).toBe('numbers');
    expect(examples[0]).toMatch(/^1[.,]500$/);
    expect(
      Object.fromEntries(
        options.map((each: { answer: string; reads: string[] }) => [each.answer, each.reads[0]]),
      ),
    ).toEqual(examples[0] === '1.500' ? { '.': '1.5', ',': '1,500' } : { '.': '1,500', ',': '1.5' });
    const wrong = await t.send('POST', `/api/imports/${body.id}/answers`, { answers: { n: 'dmy' } });
    expect(wrong.status).toBe(422);
    expect(wrong.body.detail).toContain('1,500');
    await t.send('POST', `/api/imports/${body.id}/answers`, { answers: { n: answer } });
    const done = await t.settled(body.id);
    expect(done.state).toBe('done');
    if (expected) expect((await rows(done.dataset!)).map((row: unknown[]) => row[1])).toEqual(expected);
  });

  it('of more digits than are exact are not rounded: their rows are skipped, or the column stays text', async () => {
    const names = await t.importCsv('k,n\na,1234567890123456789\nb,2234567890123456789\n');
    expect(await rows(names.dataset!)).toEqual([
      ['a', '1234567890123456789'],
      ['b', '2234567890123456789'],
    ]);
    const mixed = await t.importCsv(
      `k,n\n${Array.from({ length: 40 }, (_, i) => `q${i},${i}.5`).join('\n')}\nz,1234567890123456789\n`,
    );
    expect(mixed.rejected).toBe(1);
  });
});

describe('rows that do not fit', () => {
  it('sets them aside with line, column and reason, counting lines inside quotes', async () => {
    const good = Array.from({ length: 30 }, (_, i) => `Quel,${i}`).join('\n');
    const done = await t.importCsv(`quay,n\n${good}\n"Ha\nrl",many\nonly one\n\nVemmen,4,5\n`);
    expect(done).toMatchObject({ rows: 30, rejected: 3 });
    const { body } = await t.json(`/api/datasets/${done.dataset}/rejects`);
    expect(body.rejects).toEqual([
      { line: 32, column: 'n', reason: '"many" is not a whole number', cells: ['Ha\nrl', 'many'] },
      { line: 34, column: '', reason: '1 cell, but the header row has 2', cells: ['only one'] },
      { line: 36, column: '', reason: '3 cells, but the header row has 2', cells: ['Vemmen', '4', '5'] },
    ]);
    const csv = await (await t.request(`/api/datasets/${done.dataset}/rejects.csv`)).text();
    expect(csv.split('\n')[0]).toBe('line,column,reason,quay,n');
    expect(csv).toContain('36,,"3 cells, but the header row has 2",Vemmen,4,5');
  });

  it('widens a column that turns out to hold decimals, and loses no row for it', async () => {
    // More than the sample at the head of the file, so that the decimal is met while loading.
    const lines = Array.from({ length: 260_000 }, (_, i) => `${i},x`);
    lines[31_000] = '0.5,x';
    const done = await t.importCsv(`n,s\n${lines.join('\n')}\n`);
    expect(done).toMatchObject({ state: 'done', rows: 260_000, rejected: 0 });
    expect((await types(done.dataset!))[0]).toBe('decimal');
    expect(done.note).toContain('decimals');
  });

  it('takes a column for text when misfits are frequent', async () => {
    const lines = Array.from({ length: 260_000 }, (_, i) =>
      i > 25_000 && i < 60_000 ? `n${i},x` : `${i},x`,
    );
    const done = await t.importCsv(`n,s\n${lines.join('\n')}\n`);
    expect(done).toMatchObject({ rows: 260_000, rejected: 0 });
    expect((await types(done.dataset!))[0]).toBe('text');
  });
});

describe('files that cannot be used', () => {
  it.each([
    ['empty', '', 'The file is empty.'],
    ['blank', '\n\n \n', 'blank lines'],
    ['with a head only', 'a,b,c\n', 'only a header row'],
    [
      'with 2,000 columns',
      `${Array.from({ length: 2000 }, (_, i) => `c${i}`).join(',')}\n${'1,'.repeat(1999)}1\n`,
      '2,000 columns',
    ],
  ])('%s', async (_, content, reason) => {
    const before = await tables();
    const { status, body } = await t.upload('x.csv', content);
    expect(status).toBe(422);
    expect(body.detail).toContain(reason);
    expect(await tables()).toBe(before);
    expect(await readdir(t.spool)).toEqual([]);
  });

  it('binary', async () => {
    const { status, body } = await t.upload('x.xlsx', Buffer.from([137, 80, 78, 71, 0, 0, 8, 1, 2, 3, 0, 0]));
    expect(status).toBe(415);
    expect(body.detail).toContain('"x.xlsx" is of no format');
  });

  it('with a quote that is never closed', async () => {
    const { body } = await t.upload('x.csv', `a,b\n1,2\n3,"${'y'.repeat(9_000_000)}\n`);
    const done = await t.settled(body.id);
    expect(done.state).toBe('failed');
    expect(done.message).toContain('line 3');
  });

  it('without a single row that fits', async () => {
    const { body } = await t.upload('x.csv', 'a,b\n1\n2\n3\n');
    const done = await t.settled(body.id);
    expect(done).toMatchObject({ state: 'failed' });
    expect(done.message).toContain('No rows could be imported. First problem, line 2:');
  });
});

it('gives double and missing column names a name of their own and says so', async () => {
  const done = await t.importCsv('n,n,,N\n1,2,3,4\n');
  const { fields, source } = await dataset(done.dataset!);
  expect(fields.map((field: { name: string; key: string }) => [field.name, field.key])).toEqual([
    ['n', 'n'],
    ['n (2)', 'n_2'],
    ['Column 3', 'column_3'],
    ['N (3)', 'n_3'],
  ]);
  expect(source.notes).toHaveLength(3);
});

it('leaves nothing behind when it is cancelled', async () => {
  const before = await tables();
  const { body } = await t.upload('Big.csv', `a,b\n${'1,2\n'.repeat(600_000)}`);
  expect((await t.send('DELETE', `/api/imports/${body.id}`)).status).toBe(204);
  expect((await t.settled(body.id)).state).toBe('cancelled');
  await expect.poll(tables).toBe(before);
  expect((await t.json('/api/datasets')).body.map((d: { name: string }) => d.name)).not.toContain('Big');
  await expect.poll(() => readdir(t.spool)).toEqual([]);
});

it('names the parameter that is missing', async () => {
  const { status, body } = await t.json('/api/imports', { method: 'POST', body: 'a\n1\n' });
  expect(status).toBe(422);
  expect(body.errors[0].pointer).toBe('/name');
});
