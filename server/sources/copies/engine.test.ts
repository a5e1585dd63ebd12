import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Engine } from './engine';

let folder: string;
let engine: Engine;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'sorvik-engine-'));
  engine = await Engine.open(folder, { threads: 1, memory: 256 * 1024 * 1024 });
});
afterAll(async () => {
  engine.close();
  await rm(folder, { recursive: true, force: true });
});

const soon = () => new Promise((done) => setTimeout(done, 30));

it('what nobody waits for is done once nothing is being asked, one after the other', async () => {
  const done: string[] = [];
  let answer = () => {};
  const asked = engine.on(async () => {
    await new Promise<void>((go) => {
      answer = go;
    });
    done.push('asked');
  });
  await soon();
  const work = (name: string) =>
    engine.behind(async () => {
      done.push(`${name} begins`);
      await engine.on(soon);
      done.push(`${name} ends`);
    });
  const [first, second] = [work('first'), work('second')];
  await soon();
  expect(done).toEqual([]);
  answer();
  await Promise.all([asked, first, second]);
  expect(done).toEqual(['asked', 'first begins', 'first ends', 'second begins', 'second ends']);
});

it('one that fails keeps nothing behind it from being done', async () => {
  await expect(engine.behind(() => engine.ask('SELECT nonsense'))).rejects.toThrow(/nonsense/);
  expect((await engine.behind(() => engine.ask('SELECT 7'))).getRows()).toEqual([[7]]);
});

it('does not wait for ever while something is always being asked', async () => {
  let answer = () => {};
  const asked = engine.on(
    () =>
      new Promise<void>((go) => {
        answer = go;
      }),
  );
  await soon();
  await engine.behind(async () => {});
  answer();
  await asked;
});
