import { setTimeout } from 'node:timers/promises';
import type { Context } from 'hono';
import { type SSEMessage, streamSSE } from 'hono/streaming';

/** So often something is sent where nothing changes, ms: whoever has gone is noticed, and nothing in between gives up. */
const pulse = 20_000;

/** Rights are looked at again no more often than this, ms. */
const checked = 1000;

/** What a page is told of while it is open. */
export interface News {
  /** Calls back when there may be news; gives what ends that. */
  follow(wake: () => void): () => void;
  /** Whether whoever follows may still hear of it. */
  mayHear(): Promise<boolean>;
  /** What there is to tell that was not told before. */
  news(): SSEMessage[];
}

/** Sends news as server-sent events, until whoever follows goes, or may not hear of it any more. */
export function toldEvents(c: Context, { follow, mayHear, news }: News): Response {
  let lookedAt = performance.now();
  /** Whether something has changed since then: rights may be among it. */
  let isStale = false;
  /** How long rights rest until they are looked at again, ms. */
  const rest = () => Math.max(0, lookedAt + checked - performance.now());
  c.header('cache-control', 'no-store, no-transform');
  return streamSSE(c, async (stream) => {
    let isNews = true;
    let wake: () => void = () => {};
    const unfollow = follow(() => {
      isStale = true;
      isNews = true;
      wake();
    });
    stream.onAbort(() => {
      unfollow();
      wake();
    });
    try {
      let pulsed = performance.now();
      while (!stream.aborted) {
        if (isStale && !rest()) {
          isStale = false;
          lookedAt = performance.now();
          // Where it cannot be looked up now, it is again before long.
          const may = await mayHear().catch(() => {
            isStale = true;
            return true;
          });
          if (!may) {
            // What was open is looked at anew, and is not there any more.
            await stream.writeSSE({ event: 'rights', data: '' });
            break;
          }
        }
        isNews = false;
        for (const each of news()) await stream.writeSSE(each);
        if (performance.now() - pulsed >= pulse) {
          pulsed = performance.now();
          // Links and sessions end by themselves: nothing tells of that.
          isStale = true;
          await stream.writeSSE({ event: 'pulse', data: '' });
        }
        const woken = new Promise<void>((done) => {
          wake = done;
        });
        // What changed while that was sent is told at once.
        if (isNews || (isStale && !rest())) continue;
        const over = new AbortController();
        const late = setTimeout(isStale ? rest() : pulse, undefined, { signal: over.signal, ref: false });
        await Promise.race([woken, late.catch(() => {})]);
        over.abort();
      }
    } finally {
      unfollow();
    }
  });
}
