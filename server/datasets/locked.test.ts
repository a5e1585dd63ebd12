import { afterAll, beforeAll, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';
import { reading } from './locked';

let t: TestApp;
let id: string;
beforeAll(async () => {
  t = await testApp();
  id = (await t.importCsv('quay,n\nQuel,1\nHarl,2\n', 'Few.csv')).dataset!;
});
afterAll(() => t.close());

it('a question that is broken off as it ends breaks off no other', async () => {
  const failed: unknown[] = [];
  let broken = 0;
  for (let round = 0; round < 60; round++) {
    const gone = new AbortController();
    const asked = reading(t.database, id, ({ client }) => client.query('SELECT pg_sleep(0.003)'), {
      signal: gone.signal,
    }).catch(() => {
      broken++;
    });
    setTimeout(() => gone.abort(), round % 7);
    // The others take the connections that come free.
    const others = Array.from({ length: 8 }, () =>
      reading(t.database, id, ({ client }) => client.query('SELECT pg_sleep(0.002)')).catch((error) => {
        failed.push(error);
      }),
    );
    await Promise.all([asked, ...others]);
  }
  expect(failed).toEqual([]);
  expect(broken).toBeGreaterThan(0);
});
