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
      /** Whether something has changed since then: rights may be among it. */
      let isStale = false;
      /** How long rights rest until they are looked at again, ms. */
      const rest = () => Math.max(0, lookedAt + checked - performance.now());
      /** Whether whoever follows may still hear of all of them. */
      const mayHear = async () => {
        if (!isStale || rest()) return true;
        isStale = false;
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
        const unfollow = versions.follow(() => {
          isStale = true;
          wake();
        });
        stream.onAbort(() => {
          unfollow();
          wake();
        });
        try {
          await versions.look();
          const isNew = (id: string) => !told.has(id) || versions.of(id) !== told.get(id);
          let pulsed = performance.now();
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
            if (performance.now() - pulsed >= pulse) {
              pulsed = performance.now();
              // Links and sessions end by themselves: nothing tells of that.
              isStale = true;
              await stream.writeSSE({ event: 'pulse', data: '' });
            }
            const over = new AbortController();
            const woken = new Promise<void>((done) => {
              wake = done;
            });
            // What changed while that was sent is told at once.
            if (followed.some(isNew) || (isStale && !rest())) continue;
            const late = setTimeout(isStale ? rest() : pulse, undefined, { signal: over.signal, ref: false });
            await Promise.race([woken, late.catch(() => {})]);
            over.abort();
          }
        } finally {
          unfollow();
        }
      });
    },
  );
}
