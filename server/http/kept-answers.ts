import { createHash } from 'node:crypto';
import type { MiddlewareHandler } from 'hono';
import { LRUCache } from 'lru-cache';
import type { Changes } from '../db/changes';
import { bytesOf, type Packed, packed, packedOf, sendPacked } from './packed';

interface Kept {
  body: Packed;
  headers: Record<string, string>;
  /** Names what is in it; null where the answer has a tag that means something else. */
  tag: string | null;
}

const keptBytes = 64 * 1024 * 1024;
/** Datasets and boards, alone and listed, what viewers see of a board, and cubes. */
const keptPaths = /^\/api\/(datasets|boards)(\/[^/]+(\/(shown|cube))?)?$/;

/** Questions that are too long for an address are posted; they change nothing. */
const onlyAsks = /^\/api\/datasets\/[^/]+\/fields\/[^/]+\/absent$/;

/**
 * Keeps answers that say what is in the database, until anything there changes. An answer is only kept where nothing
 * changed while it was made. One that says `no-store` is not kept.
 */
export function keptAnswers(changes: Changes): MiddlewareHandler {
  const kept = new LRUCache<string, Kept>({
    maxSize: keptBytes,
    sizeCalculation: ({ body }) => bytesOf(body),
  });
  let state = 0;
  const forget = () => {
    state++;
    kept.clear();
  };
  changes.on(forget);
  return async (c, next) => {
    if (onlyAsks.test(c.req.path)) return next();
    if (c.req.method !== 'GET') {
      await next();
      // Whoever changes something here sees it at once, whenever the database tells of it.
      changes.tell();
      return;
    }
    if (!changes.listening || !keptPaths.test(c.req.path)) return next();
    const known = kept.get(c.req.url);
    if (known) {
      if (known.tag !== null && c.req.header('if-none-match') === known.tag)
        return c.body(null, 304, { etag: known.tag, 'cache-control': 'no-cache' });
      return sendPacked(c, known.body, known.headers);
    }
    const before = state;
    await next();
    if (c.res.status !== 200 || c.res.headers.get('cache-control') === 'no-store') return;
    const body = packedOf(c) ?? (await packed(new Uint8Array(await c.res.clone().arrayBuffer())));
    const [own, caching] = ['etag', 'cache-control'].map((name) => c.res.headers.get(name));
    // What never changes is not asked for again, and needs no tag.
    const tag = own || caching ? null : `"${createHash('sha256').update(body.plain).digest('base64url')}"`;
    const headers = {
      'content-type': c.res.headers.get('content-type') ?? 'application/json',
      'cache-control': caching ?? 'no-cache',
      ...(own || tag ? { etag: (own ?? tag)! } : {}),
    };
    for (const [name, value] of Object.entries(headers)) c.header(name, value);
    if (state === before) kept.set(c.req.url, { body, headers, tag });
    return;
  };
}
