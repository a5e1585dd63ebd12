export { docsPages } from './docs-pages';

import { createServer, type RequestListener } from 'node:http';
import { createServer as createTlsServer } from 'node:https';
import { isIP } from 'node:net';
import { getRequestListener } from '@hono/node-server';
import pino from 'pino';
import { restrictionNow } from './access/row-rules';
import { createApp, type TeamOptions } from './app';
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
import { tell } from './tell';

const isLoopback = (host: string) =>
  host === 'localhost' || host === '::1' || (isIP(host) === 4 && host.startsWith('127.'));

export interface ServerOptions {
  databaseUrl: string;
  /** 0 takes any free port. */
  port: number;
  /** The address it listens on; the loopback address where it is left out. */
  host?: string;
  /** Where people sign in: how they reach it. Left out, it is for one person at this machine. */
  team?: TeamOptions;
  /** A certificate and its key, as PEM, where no proxy has one: then it speaks TLS itself. */
  tls?: { cert: Buffer; key: Buffer };
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
  /** What lets a program read the metrics from elsewhere. */
  metricsToken?: string;
  /** The origins whose pages may show what is published, where there is no team. */
  origins?: readonly string[];
  /** Without one, nothing is logged. */
  logFile?: string;
}

export interface RunningServer {
  url: string;
  /** Of a server for a team that nobody has come to yet: what its first owner opens, once. */
  firstLink: string | null;
  close(): Promise<void>;
}

/**
 * So long a connection that nobody uses stays open, ms: longer than clients keep theirs. One that is closed just as the next
 * request is sent on it would end that request without an answer.
 */
const idle = 75_000;

const loopback = '127.0.0.1';

/** Opens the database, brings it up to date and listens: beyond this machine only where people sign in. */
export async function startServer(options: ServerOptions): Promise<RunningServer> {
  const { team, host = loopback } = options;
  if (!team && !isLoopback(host)) throw new Error(tell('main.onlyForATeam', { host }));
  const logFile = options.logFile === undefined ? null : new LogFile(options.logFile);
  const log = logFile
    ? pino({ level: 'info', serializers: { err: errorForLog } }, logFile)
    : pino({ level: 'silent' });
  const database = await openDatabase(options.databaseUrl, options.migrations, (error) =>
    log.warn({ err: error }, 'database connection lost'),
  );
  const jobs = new ImportJobs(database, options.spool, log);
  await jobs.prepare();
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
  const sources = new Sources(database, copies, connections, restrictionNow(database));
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
  const { app, people, sendKept, tidy, close } = createApp({
    database,
    sources,
    jobs,
    refresher,
    scheduler,
    log,
    team,
    ...(options.web ? { web: options.web } : {}),
    ...(options.metricsToken ? { metricsToken: options.metricsToken } : {}),
    ...(options.origins ? { origins: options.origins } : {}),
  });
  const tidyUp = async () => {
    await sweep(database, options.spool, jobs.files());
    await tidy();
  };
  await tidyUp();
  const hourly = setInterval(() => {
    tidyUp().catch((error) => log.warn({ err: error }, 'could not tidy up'));
  }, 3_600_000);
  hourly.unref();
  const answer = getRequestListener(app.fetch);
  const hear: RequestListener = (request, response) => {
    if (!sendKept(request, response)) void answer(request, response);
  };
  const server = options.tls
    ? createTlsServer({ ...options.tls, minVersion: 'TLSv1.2' }, hear)
    : createServer(hear);
  await new Promise<void>((done, fail) => {
    server.once('error', fail);
    server.listen(options.port, host, () => done());
  });
  server.keepAliveTimeout = idle;
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : options.port;
  const link = team ? await people.firstLink() : null;
  return {
    url: team ? team.address.origin : `http://${loopback}:${port}`,
    firstLink: link === null ? null : new URL(`/invitation#${link}`, team!.address).href,
    async close() {
      clearInterval(hourly);
      await close();
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
