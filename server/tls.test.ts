import { mkdtempSync, rmSync } from 'node:fs';
import { request } from 'node:https';
import type { AddressInfo } from 'node:net';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TLSSocket } from 'node:tls';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { afterAll, beforeAll, expect, inject, it } from 'vitest';
import { type RunningServer, startServer } from './main';
import { certificateFor } from './testing/clusters';

let folder: string;
let server: RunningServer;
let held: ReturnType<typeof certificateFor>;
let port: number;

const freePort = () =>
  new Promise<number>((done) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port: found } = probe.address() as AddressInfo;
      probe.close(() => done(found));
    });
  });

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'sorvik-tls-'));
  held = certificateFor('IP:127.0.0.1');
  port = await freePort();
  const name = `tls_${process.pid}_${Date.now()}`;
  const admin = new pg.Client({ connectionString: inject('databaseUrl') });
  await admin.connect();
  await admin.query(`CREATE DATABASE ${name}`);
  await admin.end();
  server = await startServer({
    databaseUrl: inject('databaseUrl').replace(/\/[^/]*$/, `/${name}`),
    port,
    team: { address: new URL(`https://127.0.0.1:${port}`), proxies: [] },
    tls: { cert: Buffer.from(held.certificate), key: Buffer.from(held.key) },
    spool: join(folder, 'spool'),
    key: join(folder, 'connections.key'),
    migrations: fileURLToPath(new URL('./migrations', import.meta.url)),
  });
});
afterAll(async () => {
  await server.close();
  rmSync(folder, { recursive: true, force: true });
});

const ask = (options: object) =>
  new Promise<{ status: number; headers: Record<string, unknown>; protocol: string | null }>((done, fail) => {
    const outgoing = request({ host: '127.0.0.1', port, path: '/api/me', ...options }, (answer) => {
      const protocol = (answer.socket as TLSSocket).getProtocol();
      answer.resume();
      answer.on('end', () => done({ status: answer.statusCode!, headers: answer.headers, protocol }));
    });
    outgoing.on('error', fail);
    outgoing.end();
  });

it('a server with a certificate of its own speaks TLS to whoever trusts it', async () => {
  const { status, headers, protocol } = await ask({ ca: held.certificate });
  expect([status, protocol]).toEqual([200, 'TLSv1.3']);
  expect(headers['strict-transport-security']).toContain('max-age');
  expect(server.firstLink).toMatch(new RegExp(`^https://127\\.0\\.0\\.1:${port}/invitation#`));
});

it('and nothing older, to nobody who does not, and nothing in the clear', async () => {
  await expect(ask({ ca: held.certificate, maxVersion: 'TLSv1.1', minVersion: 'TLSv1' })).rejects.toThrow();
  await expect(ask({})).rejects.toThrow(/self.signed|certificate/i);
  await expect(fetch(`http://127.0.0.1:${port}/api/me`)).rejects.toThrow();
});
