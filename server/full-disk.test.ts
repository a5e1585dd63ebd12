import { execFileSync } from 'node:child_process';
import {
  chmodSync,
  closeSync,
  mkdtempSync,
  openSync,
  readdirSync,
  rmSync,
  statfsSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
// @ts-expect-error: the scripts are plain JavaScript, run before anything is installed
import { startPostgres } from '../scripts/lib/postgres.mjs';
import { reserve } from './db/room';
import { type RunningServer, startServer } from './main';

const mib = 1024 * 1024;
const folder = mkdtempSync(join(tmpdir(), 'sorvik-full-'));

/** A disk of its own, in memory; only root may have one. */
function mounted(): boolean {
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=512m', 'tmpfs', folder], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
}
const hasDisk = mounted();
if (!hasDisk) rmSync(folder, { recursive: true });

const filler = join(folder, 'filler');
/** Fills the disk until so many bytes are left. */
function fill(left: number): void {
  const file = openSync(filler, 'a');
  const block = Buffer.alloc(mib / 4);
  try {
    for (;;) {
      const { bavail, bsize } = statfsSync(folder);
      if (bavail * bsize <= left) return;
      writeSync(file, block, 0, Math.min(block.length, bavail * bsize - left));
    }
  } finally {
    closeSync(file);
  }
}

describe.skipIf(!hasDisk)('a full disk (tried where a small one may be mounted: as root)', () => {
  let postgres: { url: string; pid: number; stop(): Promise<void> };
  let server: RunningServer;

  beforeAll(async () => {
    chmodSync(folder, 0o755);
    postgres = await startPostgres(folder, { throwAway: true });
    server = await startServer({
      databaseUrl: postgres.url,
      port: 0,
      spool: join(folder, 'spool'),
      key: join(folder, 'connections.key'),
      migrations: fileURLToPath(new URL('./migrations', import.meta.url)),
      logFile: join(folder, 'server.log'),
    });
  }, 60_000);
  afterAll(async () => {
    await server?.close();
    await postgres?.stop();
    execFileSync('umount', [folder]);
    rmSync(folder, { recursive: true });
  });

  const ask = (path: string, init: RequestInit = {}) =>
    fetch(server.url + path, { ...init, signal: AbortSignal.timeout(20_000) });
  const post = (path: string, body: unknown) =>
    ask(path, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
  const save = (id: string, revision: number, title: string) =>
    ask(`/api/boards/${id}`, {
      method: 'PATCH',
      headers: {
        'content-type': 'application/json-patch+json',
        'if-match': `"${revision}"`,
        'idempotency-key': `save-${title}-0000`,
      },
      body: JSON.stringify([{ op: 'replace', path: '/title', value: title }]),
    });
  const upload = (name: string, body: string) => ask(`/api/imports?name=${name}`, { method: 'POST', body });
  const settled = async (id: string) => {
    for (;;) {
      const found = await (await ask(`/api/imports/${id}`)).json();
      if (found.state !== 'loading') return found;
      await wait(20);
    }
  };
  const newBoard = async () =>
    (await post('/api/boards', { document: { version: 1, title: 'Quays', levers: [], charts: [] } })).json();
  const rowsOf = (count: number) =>
    `quay,n\n${Array.from({ length: count }, (_, i) => `q${i % 50},${i}`).join('\n')}\n`;

  it('refuses saves with what to do, lets everything be read, and goes on when there is room', async () => {
    const { pid } = postgres;
    const { id, revision } = await newBoard();
    const { dataset } = await settled((await (await upload('Quays.csv', rowsOf(2000))).json()).id);
    const { dataset: spare } = await settled((await (await upload('Spare.csv', rowsOf(10))).json()).id);
    fill(0);

    const refused = await save(id, revision, 'fuller');
    expect(refused.status).toBe(507);
    expect((await refused.json()).detail).toMatch(/no room left on the disk.*Free some space.*try again/);
    const others = [
      await post(`/api/boards/${id}/duplicate`, {}),
      await upload('More.csv', rowsOf(10)),
      await post(`/api/datasets/${dataset}/fields`, { name: 'twice', formula: 'n * 2' }),
      await post(`/api/datasets/${dataset}/fields/n/retype`, { type: 'text' }),
    ];
    expect(others.map(({ status }) => status)).toEqual([507, 507, 507, 507]);
    // However often it is tried, nothing of it reaches the database.
    for (let n = 0; n < 300; n++) expect((await save(id, revision, `again-${n}`)).status).toBe(507);

    expect((await (await ask(`/api/boards/${id}`)).json()).document.title).toBe('Quays');
    const { version } = await (await ask(`/api/datasets/${dataset}`)).json();
    const cube = await ask(`/api/datasets/${dataset}/cube?version=${version}&key=quay&aggregate=sum.n`);
    expect(cube.status).toBe(200);
    const absent = await post(`/api/datasets/${dataset}/fields/quay/absent`, { values: ['q1', 'none'] });
    expect(await absent.json()).toEqual({ absent: ['none'] });
    // What gives room back is done.
    expect((await ask(`/api/datasets/${spare}`, { method: 'DELETE' })).status).toBe(204);
    expect((await ask(`/api/deleted-datasets/${spare}`, { method: 'DELETE' })).status).toBe(204);

    rmSync(filler);
    const saved = await save(id, revision, 'fuller');
    expect(saved.status).toBe(200);
    expect((await saved.json()).revision).toBe(revision + 1);
    expect(await settled((await (await upload('More.csv', rowsOf(10))).json()).id)).toMatchObject({
      state: 'done',
      rows: 10,
    });
    expect(postgres.pid, 'PostgreSQL ran all the time').toBe(pid);
  });

  it('breaks off an import before it takes the last of the disk, and leaves nothing of it', async () => {
    const { pid } = postgres;
    const { id, revision } = await newBoard();
    const large = rowsOf(3_000_000);
    // The file fits, its rows do not.
    fill(reserve + large.length + 20 * mib);
    const response = await upload('Large.csv', large);
    const answer = await response.json();
    // Rows are loaded while the file still arrives: whichever of the two takes the last of the room hears of it.
    const told = response.status === 507 ? answer.detail : (await settled(answer.id)).message;
    expect([201, 507]).toContain(response.status);
    expect(told).toMatch(/no room left on the disk/);
    expect(readdirSync(join(folder, 'spool'))).toEqual([]);
    const { bavail, bsize } = statfsSync(folder);
    // Between two looks at the disk PostgreSQL goes on writing its log.
    expect(bavail * bsize).toBeGreaterThan(0.75 * reserve);
    // A disk that had to take so much may be slow to take more: the same save is sent again.
    const again = () =>
      save(id, revision, 'after').then(
        ({ status }) => status,
        () => 0,
      );
    await expect.poll(again, { timeout: 100_000 }).toBe(200);
    rmSync(filler);
    expect(postgres.pid, 'PostgreSQL ran all the time').toBe(pid);
  }, 180_000);
});
