import { chmodSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, it } from 'vitest';
// @ts-expect-error: the scripts are plain JavaScript, run before anything is installed
import { removeData, startPostgres } from '../scripts/lib/postgres.mjs';
import { type RunningServer, startServer } from './main';

const kills = 20;
let folder: string;
let postgres: { url: string; pid: number; stop(): Promise<void> };
let server: RunningServer;

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'sorvik-lost-'));
  chmodSync(folder, 0o755);
  postgres = await startPostgres(folder);
  server = await startServer({
    databaseUrl: postgres.url,
    port: 0,
    spool: join(folder, 'spool'),
    key: join(folder, 'connections.key'),
    migrations: fileURLToPath(new URL('./migrations', import.meta.url)),
  });
}, 60_000);
afterAll(async () => {
  await server.close();
  await postgres.stop();
  removeData(folder);
});

const ask = (path: string, init: RequestInit = {}) =>
  fetch(server.url + path, { ...init, signal: AbortSignal.timeout(20_000) });
const post = (path: string, body: unknown) =>
  ask(path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });

/** Answers other than those that a lost database is to give. */
const wrong: string[] = [];
async function noted(what: string, response: Response, ...fine: number[]): Promise<Response> {
  const { status } = response;
  if (status === 503) {
    if (response.headers.get('retry-after') === null) wrong.push(`${what}: 503 without Retry-After`);
  } else if (!fine.includes(status))
    wrong.push(`${what}: ${status} ${(await response.text()).slice(0, 200)}`);
  return response;
}

it('keeps what it acknowledged and stays up, however often the database is killed', async () => {
  const rows = Array.from({ length: 4000 }, (_, i) => `q${i % 50},${i}`).join('\n');
  const csv = `quay,n\n${rows}\n`;
  const imported = await (await ask('/api/imports?name=Lost.csv', { method: 'POST', body: csv })).json();
  let dataset = '';
  while (!dataset) {
    await wait(30);
    dataset = (await (await ask(`/api/imports/${imported.id}`)).json()).dataset ?? '';
  }
  const { version } = await (await ask(`/api/datasets/${dataset}`)).json();
  const board = await (
    await post('/api/boards', { document: { version: 1, title: 'Kept', levers: [], charts: [] } })
  ).json();

  let over = false;
  let acknowledged = { revision: board.revision as number, title: 'Kept' };
  let saves = 0;
  const saving = async () => {
    for (let n = 0; !over; n++) {
      const title = `Kept ${n}`;
      const key = `save-${String(n).padStart(8, '0')}`;
      // Sent again under its name until it is acknowledged, as the page does.
      for (let sent = false; !sent && !over; ) {
        const response = await ask(`/api/boards/${board.id}`, {
          method: 'PATCH',
          headers: {
            'content-type': 'application/json-patch+json',
            'if-match': `"${acknowledged.revision}"`,
            'idempotency-key': key,
          },
          body: JSON.stringify([{ op: 'replace', path: '/title', value: title }]),
        });
        await noted('save', response, 200);
        if (response.status === 200) {
          const { revision } = await response.json();
          if (revision !== acknowledged.revision + 1)
            wrong.push(`save: revision ${revision} after ${acknowledged.revision}`);
          acknowledged = { revision, title };
          sent = true;
          saves++;
        } else await wait(30);
      }
    }
  };
  const asking = async () => {
    for (let n = 0; !over; n++) {
      const keep = encodeURIComponent(JSON.stringify({ field: 'n', ranges: [[0, n]] }));
      await noted(
        'cube',
        await ask(`/api/datasets/${dataset}/cube?version=${version}&key=quay&aggregate=sum.n&keep=${keep}`),
        200,
      );
      await wait(5);
    }
  };
  const importing = async () => {
    while (!over) {
      const response = await ask('/api/imports?name=More.csv', { method: 'POST', body: csv });
      await noted('import', response, 201);
      for (
        let state = response.status === 201 ? 'loading' : 'failed', id = (await response.json()).id;
        state === 'loading';
      ) {
        await wait(10);
        state = (await (await ask(`/api/imports/${id}`)).json()).state;
      }
    }
  };
  const work = [saving(), asking(), asking(), importing()];
  for (let k = 0; k < kills; k++) {
    await wait(120 + ((k * 37) % 100));
    const { pid } = postgres;
    process.kill(pid, 'SIGKILL');
    const deadline = Date.now() + 20_000;
    while (Date.now() < deadline) {
      await wait(50);
      if (postgres.pid !== pid && (await ask('/healthz').catch(() => null))?.status === 200) break;
    }
  }
  over = true;
  await Promise.all(work);
  expect(wrong).toEqual([]);
  expect(saves).toBeGreaterThan(kills);
  const kept = await (await ask(`/api/boards/${board.id}`)).json();
  // The last save may have arrived without its answer.
  expect(kept.revision).toBeGreaterThanOrEqual(acknowledged.revision);
  if (kept.revision === acknowledged.revision) expect(kept.document.title).toBe(acknowledged.title);
}, 240_000);
