import { Readable } from 'node:stream';
import { expect, it } from 'vitest';
import { readCsv, UnclosedQuote } from './csv-rows';

const row = `${'x'.repeat(99)},1\n`;
const piece = row.repeat(640);
/** About 13 MB, in pieces of 64 kB. */
const longText = () =>
  Readable.from(
    (function* () {
      for (let i = 0; i < 200; i++) yield piece;
    })(),
  );

it('waits for whoever takes the rows, however slow: long files are no long rows', async () => {
  let rows = 0;
  let waiting = 0;
  await readCsv(longText(), ',', async (batch) => {
    expect(++waiting).toBe(1);
    rows += batch.rows.filter((cells) => cells.length === 2).length;
    await new Promise((done) => setTimeout(done, 1));
    waiting--;
  });
  expect(rows).toBe(200 * 640);
});

it('a quote that is never closed ends the reading', async () => {
  const open = Readable.from(
    (function* () {
      yield `a,b\n1,"${'y'.repeat(100)}`;
      for (let i = 0; i < 200; i++) yield piece;
    })(),
  );
  await expect(readCsv(open, ',', () => {})).rejects.toThrow(UnclosedQuote);
});
