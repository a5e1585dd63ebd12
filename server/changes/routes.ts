import { setTimeout } from 'node:timers/promises';
import { Transform } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsString, MaxLength } from 'class-validator';
import { streamSSE } from 'hono/streaming';
import type { Database } from '../db/client';
import { asList } from '../http/as-list';
import type { Routes } from '../http/routes';
import { DatasetVersions } from './dataset-versions';

class ChangesQuery {
  /** The datasets that are followed. */
  @Transform(asList)
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(100)
  @IsString({ each: true })
  @MaxLength(200, { each: true })
  dataset!: string[];
}

/** So often something is sent where nothing changes, ms: whoever has gone is noticed, and nothing in between gives up. */
const pulse = 20_000;

/** Rights are looked at again no more often than this, ms. */
const checked = 1000;

/** Tells pages of what changes while they are open. */
export function addChangeRoutes(routes: Routes, database: Database): void {
  const versions = new DatasetVersions(database);
  routes.add(
    {
      method: 'get',
      path: '/api/changes',
      needs: 'visitor',
      summary: 'The versions of some datasets, now and whenever one changes, as server-sent events',
      query: ChangesQuery,
      answers: { 200: 'text/event-stream' },
    },
    async (c, { query }) => {
      let followed = await routes.access.followed(c, query.dataset);
      let lookedAt = performance.now();
      /** Whether whoever follows may still hear of all of them. */
      const mayHear = async () => {
        if (performance.now() - lookedAt < checked) return true;
        lookedAt = performance.now();
        const now = await routes.access.followed(c, query.dataset);
        const same = now.length === followed.length;
        followed = now;
        return same;
      };
      c.header('cache-control', 'no-store, no-transform');
      return streamSSE(c, async (stream) => {
        const told = new Map<string, number | undefined>();
        let wake: () => void = () => {};
        const unfollow = versions.follow(() => wake());
        stream.onAbort(() => {
          unfollow();
          wake();
        });
        try {
          await versions.look();
          const isNew = (id: string) => !told.has(id) || versions.of(id) !== told.get(id);
          while (!stream.aborted) {
            if (!(await mayHear())) {
              // What was open is looked at anew, and is not there any more.
              await stream.writeSSE({ event: 'rights', data: '' });
              break;
            }
            const changed = followed.filter(isNew);
            if (changed.length) {
              for (const id of changed) told.set(id, versions.of(id));
              const found = changed.map((id) => [id, versions.of(id) ?? null]);
              await stream.writeSSE({ event: 'datasets', data: JSON.stringify(Object.fromEntries(found)) });
            }
            const woken = new Promise<'woken'>((done) => {
              wake = () => done('woken');
            });
            // What changed while that was sent is told at once.
            if (followed.some(isNew)) continue;
            const over = new AbortController();
            const late = setTimeout(pulse, 'late', { signal: over.signal, ref: false }).catch(() => 'over');
            if ((await Promise.race([woken, late])) === 'late')
              await stream.writeSSE({ event: 'pulse', data: '' });
            over.abort();
          }
        } finally {
          unfollow();
        }
      });
    },
  );
}
