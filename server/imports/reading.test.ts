import { writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import fc from 'fast-check';
import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';
import { readCsv, UnclosedQuote } from './csv-rows';
import { readable, TextWatch, textOf } from './text-file';

/** Cuts a text into pieces of the given sizes, over and over. */
function pieces(text: string, sizes: readonly number[]): string[] {
  const cut: string[] = [];
  for (let at = 0, i = 0; at < text.length; i++) {
    const size = sizes[i % sizes.length]!;
    cut.push(text.slice(at, at + size));
    at += size;
  }
  return cut;
}

async function read(text: string, sizes: readonly number[], separator = ',') {
  const rows: string[][] = [];
  const lines: number[] = [];
  await readCsv(Readable.from(pieces(text, sizes)), separator, async (batch) => {
    // A database that is slow to take the rows must not lose any.
    await new Promise((done) => setImmediate(done));
    rows.push(...batch.rows);
    lines.push(...batch.lines);
  });
  return { rows, lines };
}

describe('rows of a text', () => {
  const cell = fc.string({
    unit: fc.constantFrom('a', 'b', '"', ',', ';', '\n', ' ', 'é', '1'),
    maxLength: 6,
  });
  const table = fc.array(fc.array(cell, { minLength: 2, maxLength: 4 }), { minLength: 1, maxLength: 12 });

  it('are the same however it arrives', async () => {
    await fc.assert(
      fc.asyncProperty(
        table,
        fc.array(fc.integer({ min: 3, max: 40 }), { minLength: 1, maxLength: 5 }),
        async (rows, sizes) => {
          const text = Papa.unparse(rows, { newline: '\n', quotes: true });
          expect((await read(text, sizes)).rows).toEqual(rows);
        },
      ),
      { numRuns: 150 },
    );
  });

  it('begin on the lines they are said to', async () => {
    const { rows, lines } = await read('a,b\n"x\ny\nz",1\nc,2\n\n"d\n",3', [5]);
    expect(rows.map((row, i) => [row[0], lines[i]])).toEqual([
      ['a', 1],
      ['x\ny\nz', 2],
      ['c', 5],
      ['', 6],
      ['d\n', 7],
    ]);
  });

  it('end with a sentence when a quote is never closed', async () => {
    const endless = `a,b\n1,"${'x'.repeat(9_000_000)}`;
    await expect(read(endless, [500_000])).rejects.toThrow(UnclosedQuote);
  });

  it('stop when what takes them fails, and do not pass for complete', async () => {
    const source = Readable.from(pieces('a\n'.repeat(1000), [100]));
    let batches = 0;
    await expect(
      readCsv(source, ',', () => {
        if (++batches === 3) throw new Error('full');
      }),
    ).rejects.toThrow('full');
    expect(batches).toBe(3);
  });
});

describe('the bytes of a file', () => {
  const watched = (bytes: Buffer, sizes: readonly number[]) => {
    const watch = new TextWatch();
    for (let at = 0, i = 0; at < bytes.length; i++) {
      const size = sizes[i % sizes.length]!;
      watch.see(bytes.subarray(at, at + size));
      at += size;
    }
    return watch;
  };
  const sizes = fc.array(fc.integer({ min: 1, max: 7 }), { minLength: 1, maxLength: 4 });

  it('are known for UTF-8 wherever they are cut', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', minLength: 1 }), sizes, (text, cut) => {
        const bytes = Buffer.from(text.replaceAll('\0', ''), 'utf8');
        expect(watched(bytes, cut).encoding).toBe('utf-8');
      }),
    );
  });

  it('are known for something older when they are no UTF-8', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[a-z ]{0,20}$/), sizes, (text, cut) => {
        expect(watched(Buffer.from(`${text}\xf6${text}`, 'latin1'), cut).encoding).toBe('windows-1252');
      }),
    );
  });

  it('are no text with zeros or many control characters in them', () => {
    expect(watched(Buffer.from([97, 0, 98]), [3]).binary).toBe(true);
    expect(watched(Buffer.from(Array(100).fill(2)), [10]).binary).toBe(true);
    expect(watched(Buffer.from('a,b\r\n\t1'), [4]).binary).toBe(false);
    expect(watched(Buffer.from('\ufeffa,b', 'utf16le'), [4]).binary).toBe(false);
  });

  it('come out as UTF-8, without the mark at the beginning', async () => {
    const file = join(tmpdir(), `sorvik-text-${process.pid}.csv`);
    const textOfBytes = async (bytes: Buffer, encoding: 'utf-8' | 'windows-1252' | 'utf-16le') => {
      await writeFile(file, bytes);
      let text = '';
      for await (const piece of textOf(file, encoding, () => {})) text += piece;
      return readable(text);
    };
    expect(await textOfBytes(Buffer.from('\ufeffMöwe – 1'), 'utf-8')).toBe('Möwe – 1');
    expect(await textOfBytes(Buffer.from('M\xf6we \x96 1', 'latin1'), 'windows-1252')).toBe('Möwe – 1');
    expect(await textOfBytes(Buffer.from('\ufeffMöwe – 1', 'utf16le'), 'utf-16le')).toBe('Möwe – 1');
  });
});

describe('through the database and back', () => {
  let t: TestApp;
  beforeAll(async () => {
    t = await testApp();
  });
  afterAll(() => t.close());

  it('texts are what they were, but for the white space around them', async () => {
    const text = fc.string({
      unit: fc.constantFrom('a', 'Z', '\\', '\\N', '\t', '\n', '"', ',', 'à', '–', '𝄞', ' ', '.', '\u00a0'),
      maxLength: 12,
    });
    await fc.assert(
      fc.asyncProperty(fc.array(text, { minLength: 1, maxLength: 30 }), async (texts) => {
        // A first row of letters keeps the column a column of text.
        const csv = Papa.unparse([['t', 'n'], ['letters', 'x'], ...texts.map((each) => [each, 'x'])], {
          newline: '\n',
          quotes: true,
        });
        const { dataset } = await t.importCsv(csv, 'Texts.csv');
        const { rows } = (await t.json(`/api/datasets/${dataset}/rows`)).body;
        const expected = texts.map((each) => each.replace(/^[ \t\n]+|[ \t\n]+$/g, '') || null);
        expect(rows.slice(1).map((row: unknown[]) => row[0])).toEqual(expected);
      }),
      { numRuns: 40 },
    );
  });
});
