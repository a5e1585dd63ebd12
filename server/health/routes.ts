import { timingSafeEqual } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import type { Context } from 'hono';
import type { Database } from '../db/client';
import { HttpProblem } from '../http/problem';
import type { Routes } from '../http/routes';
import { ref } from '../http/schemas';
import { tell } from '../tell';
import type { Metrics } from './metrics';

/** Who may read the metrics: whoever is at the machine itself, or has this token. */
export interface Operator {
  token: string | null;
  /** For a team, others reach the server too. */
  others: boolean;
}

const isLoopback = (address: string) => /^(::ffff:)?127\.|^::1$/.test(address);

/** Asked of the machine by a name of its own: a proxy asks by the name that others know. */
const isOwnName = (host: string | undefined) => /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/i.test(host ?? '');

const same = (a: string, b: string): boolean => {
  const [one, other] = [Buffer.from(a), Buffer.from(b)];
  return one.length === other.length && timingSafeEqual(one, other);
};

function isOperator(c: Context, { token, others }: Operator): boolean {
  if (!others) return true;
  const [, given] = /^Bearer\s+(\S+)$/i.exec(c.req.header('authorization') ?? '') ?? [];
  if (token !== null && given !== undefined && same(given, token)) return true;
  const incoming = (c.env as { incoming?: IncomingMessage } | undefined)?.incoming;
  // What a proxy on the same machine passes on comes from elsewhere.
  const passedOn = c.req.header('x-forwarded-for') !== undefined || c.req.header('forwarded') !== undefined;
  return !passedOn && isOwnName(c.req.header('host')) && isLoopback(incoming?.socket.remoteAddress ?? '');
}

/** Tells whether the server and its database answer, and how it is. */
export function addHealthRoutes(
  routes: Routes,
  { pool, changes }: Database,
  metrics: Metrics,
  operator: Operator,
): void {
  const isUp = () =>
    pool.query('SELECT 1').then(
      () => true,
      () => false,
    );
  routes
    .add(
      {
        method: 'get',
        path: '/healthz',
        needs: 'nothing',
        summary: 'Whether server and database answer',
        answers: { 200: ref('Health'), 503: ref('Health') },
      },
      async (c) =>
        (await isUp())
          ? c.json({ status: 'ok', database: 'up' })
          : c.json({ status: 'degraded', database: 'down' }, 503),
    )
    .add(
      {
        method: 'get',
        path: '/readyz',
        needs: 'nothing',
        summary: 'Whether requests can be sent here: the database answers, and its changes are heard of',
        answers: { 200: ref('Readiness'), 503: ref('Readiness') },
      },
      async (c) => {
        const found = { database: await isUp(), changes: changes.listening };
        const ready = found.database && found.changes;
        return c.json({ ready, ...found }, ready ? 200 : 503, { 'cache-control': 'no-store' });
      },
    )
    .add(
      {
        method: 'get',
        path: '/metrics',
        needs: 'nothing',
        summary: 'Figures for the operator, as text: requests, pools, imports, copies, the event loop',
        answers: { 200: 'text/plain' },
      },
      async (c) => {
        if (!isOperator(c, operator))
          throw new HttpProblem(404, 'not-found', tell('app.thereIsNothingAt', { path: c.req.path }));
        return c.body(await metrics.text(), 200, {
          'content-type': metrics.type,
          'cache-control': 'no-store',
        });
      },
    );
}
