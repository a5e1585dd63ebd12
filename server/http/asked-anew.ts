import { createHash } from 'node:crypto';
import type { MiddlewareHandler } from 'hono';
import { packedOf } from './packed';

/** Longer answers are sent again rather than looked through. */
const mostBytes = 16 * 1024 * 1024;
const tagged = /^application\/(json|vnd\.apache\.arrow\.stream)\b/;

/**
 * Where people sign in, what a browser has kept is asked for anew each time, so that each answer is one to whoever asks now and may
 * have it now: two people at one browser have what is theirs, and what was taken away is gone. What is still the same is not sent again.
 */
export const askedAnew: MiddlewareHandler = async (c, next) => {
  await next();
  if (c.req.method !== 'GET' || c.res.status !== 200) return;
  c.header('vary', 'cookie', { append: true });
  if (/no-store/.test(c.res.headers.get('cache-control') ?? '')) return;
  c.header('cache-control', 'private, max-age=0, must-revalidate');
  if (c.res.headers.has('etag') || !tagged.test(c.res.headers.get('content-type') ?? '')) return;
  const body = packedOf(c)?.plain ?? new Uint8Array(await c.res.clone().arrayBuffer());
  if (body.byteLength > mostBytes) return;
  const tag = `W/"${createHash('sha256').update(body).digest('base64url')}"`;
  c.header('etag', tag);
  if (c.req.header('if-none-match') === tag)
    c.res = new Response(null, {
      status: 304,
      headers: { etag: tag, 'cache-control': 'private, max-age=0, must-revalidate', vary: 'cookie' },
    });
};
