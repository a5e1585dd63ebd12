import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
beforeAll(async () => {
  t = await testApp();
});
afterAll(() => t.close());

const rows = 300_000;
const line = (i: number) => `${2000 + (i % 24)}-03-01,Buoy ${i % 9},${i % 1000}`;
const usual = Array.from({ length: rows }, (_, i) => line(i));
const head = 'day,buoy,height';

/** Sends a file in pieces; before the last one `midway` is awaited. */
function sent(lines: readonly string[], midway: () => Promise<void> = async () => {}) {
  const bytes = Buffer.from(`${head}\n${lines.join('\n')}\n`);
  const cut = bytes.length - 1000;
  const body = new ReadableStream({
    async start(stream) {
      try {
        for (let at = 0; at < cut; at += 1 << 18)
          stream.enqueue(bytes.subarray(at, Math.min(cut, at + (1 << 18))));
        await midway();
        stream.enqueue(bytes.subarray(cut));
        stream.close();
      } catch (error) {
        stream.error(error);
      }
    },
  });
  return t.json('/api/imports?name=Heights.csv', { method: 'POST', body, duplex: 'half' } as RequestInit);
}

/** How many bytes wait in tables that nobody can see yet, or are copied into one: loading has begun. */
const copying = async () => {
  const { rows: found } = await t.database.pool.query(
    "SELECT count(*) AS n FROM pg_stat_activity WHERE datname = current_database() AND query LIKE 'COPY data.%'",
  );
  return found[0].n as number;
};
const tables = async () => {
  const { rows: found } = await t.database.pool.query(
    "SELECT count(*) AS n FROM pg_tables WHERE schemaname = 'data'",
  );
  return found[0].n as number;
};

async function loaded(answer: Awaited<ReturnType<typeof sent>>) {
  expect(answer.status).toBe(201);
  const view = await t.settled(answer.body.id);
  expect(view).toMatchObject({ state: 'done' });
  expect(view.bytesRead).toBe(view.bytesTotal);
  const { body } = await t.json(`/api/datasets/${view.dataset}`);
  const types = body.fields.map(({ key, type }: { key: string; type: string }) => `${key} ${type}`);
  return { view, body, types };
}

describe('a file that is still arriving', () => {
  it('is being loaded before its end is there, and has every row once', async () => {
    let begun = 0;
    const { view, body, types } = await loaded(
      await sent(usual, async () => {
        await expect.poll(copying, { timeout: 10_000 }).toBe(1);
        begun++;
      }),
    );
    expect(begun).toBe(1);
    expect([view.rows, view.rejected, body.rows]).toEqual([rows, 0, rows]);
    expect(types).toEqual(['day date', 'buoy text', 'height integer']);
    const { body: last } = await t.json(`/api/datasets/${view.dataset}/rows?offset=${rows - 1}`);
    expect(last.rows).toEqual([['2023-03-01', `Buoy ${(rows - 1) % 9}`, (rows - 1) % 1000]]);
    expect(await tables()).toBe(1);
  });

  it.each([
    ['quotes', [...usual, '2001-03-01,"Buoy ""A"", far out",7'], rows + 1, 'height integer'],
    ['a figure with decimals', [...usual, '2001-03-01,Buoy 1,7.5'], rows + 1, 'height decimal'],
    [
      'words where there were figures',
      [...usual.slice(0, 150_000), ...usual.slice(150_000).map((each) => `${each} m`)],
      rows,
      'height text',
    ],
  ])('is loaded anew where it turns out to hold %s', async (_what, lines, count, type) => {
    const before = await tables();
    const { body, types } = await loaded(await sent(lines, () => expect.poll(copying).toBe(1)));
    expect([body.rows, types[2]]).toEqual([count, type]);
    expect(await tables()).toBe(before + 1);
  });

  it('leaves nothing behind where it breaks off', async () => {
    const before = await tables();
    const answer = await sent(usual, async () => {
      await expect.poll(copying).toBe(1);
      throw new Error('the line is dead');
    }).catch(() => null);
    expect(answer?.status ?? 500).toBeGreaterThanOrEqual(400);
    await expect.poll(copying).toBe(0);
    expect(await tables()).toBe(before);
  });

  it('that is no text after all is refused, and leaves nothing behind', async () => {
    const before = await tables();
    const answer = await sent([...usual, '\0'.repeat(200_000)], () => expect.poll(copying).toBe(1));
    expect(answer.status).toBe(415);
    await expect.poll(copying).toBe(0);
    expect(await tables()).toBe(before);
  });

  it('can be cancelled', async () => {
    const before = await tables();
    const { body } = await sent(usual);
    await t.send('DELETE', `/api/imports/${body.id}`);
    const view = await t.settled(body.id);
    await expect.poll(copying).toBe(0);
    expect(await tables()).toBe(view.state === 'done' ? before + 1 : before);
  });

  it('is loaded once, also where what comes later is unlike its beginning, but of the same types', async () => {
    const begun = async () =>
      Number(
        (
          await t.database.pool.query(
            `SELECT last_value FROM ${(await t.database.pool.query("SELECT pg_get_serial_sequence('sorvik.datasets', 'number') AS name")).rows[0].name}`,
          )
        ).rows[0].last_value,
      );
    const before = await begun();
    const inOrder = Array.from(
      { length: rows },
      (_, i) => `${2000 + Math.floor(i / 20_000)}-03-01,Buoy ${i % 9},7`,
    );
    const { view } = await loaded(
      await sent(inOrder, async () => {
        await expect.poll(copying, { timeout: 10_000 }).toBe(1);
      }),
    );
    expect(view.rows).toBe(rows);
    expect((await begun()) - before).toBe(1);
  });
});
