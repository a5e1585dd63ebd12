import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { ImportView } from '@sorvik/core/board/api-types';
import pg from 'pg';
import pino from 'pino';
import { inject } from 'vitest';
import { restrictionNow } from '../access/row-rules';
import { createApp, type TeamOptions } from '../app';
import { Connections } from '../connections/connections';
import { Secrets } from '../connections/secrets';
import { openDatabase } from '../db/client';
import { ImportJobs } from '../imports/jobs';
import type { AllowedAddresses } from '../refresh/origins/address';
import { originsOf } from '../refresh/origins/origins';
import { Refresher } from '../refresh/refresher';
import { Scheduler } from '../refresh/scheduler';
import { usualVersionsKept } from '../refresh/versions';
import { Copies } from '../sources/copies/copies';
import { Sources } from '../sources/sources';

let count = 0;

/** The whole application on a database of its own in the run's PostgreSQL. `copies` are made of every dataset, and `schedules` kept, where that is wanted. */
export async function testApp(
  options: {
    copies?: true;
    schedules?: true;
    allowed?: AllowedAddresses;
    team?: TeamOptions;
    metricsToken?: string;
    origins?: string[];
    web?: string;
  } = {},
) {
  const base = inject('databaseUrl');
  const name = `test_${process.pid}_${++count}_${Date.now()}`;
  const admin = new pg.Client({ connectionString: base });
  await admin.connect();
  await admin.query(`CREATE DATABASE ${name}`);
  const url = base.replace(/\/[^/]*$/, `/${name}`);
  const database = await openDatabase(
    url,
    fileURLToPath(new URL('../migrations', import.meta.url)),
    () => {},
  );
  const spool = await mkdtemp(join(tmpdir(), 'sorvik-spool-'));
  const jobs = new ImportJobs(database, spool, pino({ level: 'silent' }));
  const folder = join(spool, 'copies');
  const limits = {
    folder,
    threads: 2,
    memory: 512 * 1024 * 1024,
    fewestRows: 0,
    rollUps: { fewestRows: 0, worthwhile: 0.5, slice: 1500 },
  };
  const copies = options.copies ? await Copies.open(database, limits, pino({ level: 'silent' })) : null;
  const connections = new Connections(database, new Secrets(join(spool, 'connections.key')));
  const sources = new Sources(database, copies, connections, restrictionNow(database));
  if (copies) jobs.loader.onLoaded = (dataset, lines) => copies.loaded(dataset, lines);
  const log = pino({ level: 'silent' });
  const allowed = options.allowed ?? { private: true, hosts: [] };
  const refresher = new Refresher(database, jobs, usualVersionsKept, originsOf(sources, allowed), log);
  const scheduler = new Scheduler(database, refresher, log);
  if (options.schedules) await scheduler.start();
  const { app, people, routes, sendKept, tidy, close } = createApp({
    database,
    sources,
    jobs,
    refresher,
    scheduler,
    log,
    team: options.team,
    metricsToken: options.metricsToken,
    origins: options.origins,
    web: options.web,
  });

  const request = (path: string, init: RequestInit = {}) =>
    app.request(path, {
      ...init,
      headers: { host: 'localhost', ...(init.headers as Record<string, string>) },
    });
  const json = async (path: string, init?: RequestInit) => {
    const response = await request(path, init);
    return {
      app,
      status: response.status,
      headers: response.headers,
      body: response.status === 204 ? null : await response.json(),
    };
  };
  const send = (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) =>
    json(path, {
      method,
      headers: { 'content-type': 'application/json', ...headers },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });

  const upload = (name: string, content: string | Uint8Array) =>
    json(`/api/imports?name=${encodeURIComponent(name)}`, { method: 'POST', body: content as BodyInit });
  /** Waits until an import has nothing left to do. */
  const settled = async (id: string): Promise<ImportView> => {
    for (;;) {
      const { body } = await json(`/api/imports/${id}`);
      if (body.state !== 'loading') return body;
      await new Promise((resolve) => setTimeout(resolve, 15));
    }
  };
  const importCsv = async (content: string | Uint8Array, name = 'Trips.csv'): Promise<ImportView> => {
    const { status, body } = await upload(name, content);
    if (status !== 201) throw new Error(`${status}: ${body.detail}`);
    return settled(body.id);
  };
  /** Sends new rows for a dataset, and says what would change. */
  const stage = async (
    id: string,
    content: string | Uint8Array,
    query = 'mode=replace',
    name = 'More.csv',
  ) => {
    const sent = await json(`/api/datasets/${id}/refreshes?name=${encodeURIComponent(name)}&${query}`, {
      method: 'POST',
      body: content as BodyInit,
    });
    if (sent.status !== 201) throw new Error(`${sent.status}: ${sent.body.detail}`);
    const job = await settled(sent.body.id);
    if (job.state !== 'staged') throw new Error(`${job.state}: ${job.message}`);
    return { id: job.id, preview: (await json(`/api/imports/${job.id}/preview`)).body };
  };
  /** Sends new rows for a dataset, and takes them. */
  const refresh = async (id: string, content: string | Uint8Array, query = 'mode=replace', name?: string) => {
    const staged = await stage(id, content, query, name);
    const taken = await send('POST', `/api/imports/${staged.id}/take`);
    if (taken.status !== 200) throw new Error(`${taken.status}: ${taken.body.detail}`);
    return staged.preview;
  };
  return {
    url,
    app,
    stage,
    refresh,
    routes,
    people,
    tidy,
    sendKept,
    database,
    sources,
    copies,
    jobs,
    refresher,
    scheduler,
    spool,
    request,
    json,
    send,
    upload,
    settled,
    importCsv,
    async close() {
      await close();
      await scheduler.close();
      await jobs.close();
      await copies?.close();
      await connections.close();
      await database.close();
      await rm(spool, { recursive: true, force: true });
      await admin.query(`DROP DATABASE ${name} WITH (FORCE)`);
      await admin.end();
    },
  };
}

export type TestApp = Awaited<ReturnType<typeof testApp>>;
