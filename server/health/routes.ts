import type { Database } from '../db/client';
import type { Routes } from '../http/routes';
import { ref } from '../http/schemas';

/** Tells whether the server and its database answer. */
export function addHealthRoutes(routes: Routes, { pool }: Database): void {
  routes.add(
    {
      method: 'get',
      path: '/healthz',
      needs: 'nothing',
      summary: 'Whether server and database answer',
      answers: { 200: ref('Health'), 503: ref('Health') },
    },
    async (c) => {
      const up = await pool.query('SELECT 1').then(
        () => true,
        () => false,
      );
      return up
        ? c.json({ status: 'ok', database: 'up' })
        : c.json({ status: 'degraded', database: 'down' }, 503);
    },
  );
}
