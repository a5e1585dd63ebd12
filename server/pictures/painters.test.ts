import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, expect, it } from 'vitest';
import type { PictureOrder } from './painter-order';
import { Painters, SlowPicture, TooManyPictures } from './painters';

const folder = mkdtempSync(join(tmpdir(), 'sorvik-painters-'));
const never = new AbortController().signal;
let painters: Painters;
afterEach(() => painters.close());

/** Painters in whose place something else works. */
function working(code: string, limits: { waiting?: number; longest?: number } = {}) {
  const file = join(folder, 'painter.mjs');
  writeFileSync(file, `export default ${code};`);
  painters = new Painters({ file, threads: 1, ...limits });
  return (order: object = {}, signal = never) => painters.paint(order as PictureOrder, signal);
}

it('what takes too long is broken off, and the next one is drawn', async () => {
  const paint = working('({ slow }) => { while (slow) {} return new Uint8Array([7]); }', { longest: 1500 });
  await expect(paint({ slow: true })).rejects.toBeInstanceOf(SlowPicture);
  expect([...((await paint()) as Uint8Array)]).toEqual([7]);
});

it('more than may wait are refused at once; those that wait are drawn', async () => {
  const paint = working(
    'async () => { await new Promise((done) => setTimeout(done, 300)); return new Uint8Array(1); }',
    {
      waiting: 3,
    },
  );
  const all = await Promise.allSettled(Array.from({ length: 12 }, () => paint()));
  const refused = all.filter((each) => each.status === 'rejected');
  expect(refused.length).toBeGreaterThanOrEqual(8);
  for (const { reason } of refused) expect(reason).toBeInstanceOf(TooManyPictures);
  expect(all.some(({ status }) => status === 'fulfilled')).toBe(true);
});

it('one that nobody waits for any more is given up', async () => {
  const paint = working('() => { for (;;) {} }');
  const gone = new AbortController();
  const painting = paint({}, gone.signal);
  setTimeout(() => gone.abort(new Error('gone')), 500);
  await expect(painting).rejects.toThrow('gone');
  rmSync(folder, { recursive: true, force: true });
});
