export { docsPages } from './docs-pages';

import { createServer } from 'node:http';
import { getRequestListener } from '@hono/node-server';
import pino from 'pino';
import { createApp } from './app';
import { Connections } from './connections/connections';
import { Secrets } from './connections/secrets';
import { sweep } from './datasets/purge';
import { openDatabase } from './db/client';
import { ImportJobs } from './imports/jobs';
import { errorForLog, LogFile } from './log-file';
import type { AllowedAddresses } from './refresh/origins/address';
import { originsOf } from './refresh/origins/origins';
import { Refresher } from './refresh/refresher';
import { Scheduler } from './refresh/scheduler';
import { usualVersionsKept } from './refresh/versions';
import { Copies, type CopyOptions, usualFewestRows } from './sources/copies/copies';
import { usualLimits } from './sources/copies/engine';
import { Sources } from './sources/sources';

export interface ServerOptions {
  databaseUrl: string;
  /** 0 takes any free port. */
  port: number;
  /** Where files wait while they are imported. */
  spool: string;
  /** The file with the key that passwords of other databases are sealed with; made when it is first needed. */
  key: string;
  /** Column copies that make answers faster; none where it is left out. */
  copies?: { folder: string } & Partial<Omit<CopyOptions, 'folder'>>;
  /** Versions of rows that are kept besides the last of each month. */
  versionsKept?: number;
  /** Where rows may be fetched from besides the public internet; nowhere else where it is left out. */
  allowed?: AllowedAddresses;
  migrations: string;
  web?: string;
  /** Without one, nothing is logged. */
  logFile?: string;
}

export interface RunningServer {
  url: string;
  close(): Promise<void>;
}

/**
 * So long a connection that nobody uses stays open, ms: longer than clients keep theirs. One that is closed just as the next
 * request is sent on it would end that request without an answer.
 */
const idle = 75_000;

/** Opens the database, brings it up to date and listens on the loopback address. */
export async function startServer(options: ServerOptions): Promise<RunningServer> {
  const logFile = options.logFile === undefined ? null : new LogFile(options.logFile);
  const log = logFile
    ? pino({ level: 'info', serializers: { err: errorForLog } }, logFile)
    : pino({ level: 'silent' });
  const database = await openDatabase(options.databaseUrl, options.migrations, (error) =>
    log.warn({ err: error }, 'database connection lost'),
  );
  const jobs = new ImportJobs(database, options.spool, log);
  await jobs.prepare();
  const tidy = () => sweep(database, options.spool, jobs.files());
  await tidy();
  const hourly = setInterval(() => {
    tidy().catch((error) => log.warn({ err: error }, 'could not tidy up'));
  }, 3_600_000);
  hourly.unref();
  const copies = options.copies
    ? await Copies.open(
        database,
        { ...usualLimits(), fewestRows: usualFewestRows, ...options.copies },
        log,
      ).catch((error) => {
        // Without them everything is right, and slower.
        log.warn({ err: error }, 'no column copies');
        return null;
      })
    : null;
  const connections = new Connections(database, new Secrets(options.key));
  const sources = new Sources(database, copies, connections);
  if (copies) jobs.loader.onLoaded = (dataset, lines) => copies.loaded(dataset, lines);
  const refresher = new Refresher(
    database,
    jobs,
    options.versionsKept ?? usualVersionsKept,
    originsOf(sources, options.allowed ?? { private: false, hosts: [] }),
    log,
  );
  const scheduler = new Scheduler(database, refresher, log);
  await scheduler.start();
  const { app, sendKept } = createApp({
    database,
    sources,
    jobs,
    refresher,
    scheduler,
    log,
    ...(options.web ? { web: options.web } : {}),
  });
  const answer = getRequestListener(app.fetch);
  const server = createServer((request, response) => {
    if (!sendKept(request, response)) void answer(request, response);
  });
  await new Promise<void>((done, fail) => {
    server.once('error', fail);
    server.listen(options.port, '127.0.0.1', () => done());
  });
  server.keepAliveTimeout = idle;
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : options.port;
  return {
    url: `http://127.0.0.1:${port}`,
    async close() {
      clearInterval(hourly);
      await scheduler.close();
      await jobs.close();
      await copies?.close();
      await connections.close();
      const closed = new Promise<void>((resolve) => server.close(() => resolve()));
      server.closeAllConnections();
      await closed;
      await database.close();
      await logFile?.close();
    },
  };
}
