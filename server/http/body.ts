import { Readable } from 'node:stream';
import type { ReadableStream as NodeReadableStream } from 'node:stream/web';
import type { Context } from 'hono';

/** The body as it comes from the socket; without a socket, as the request has it. */
export function bodyOf(c: Context): Readable {
  const { incoming } = (c.env ?? {}) as { incoming?: Readable };
  if (incoming) return incoming;
  return c.req.raw.body ? Readable.fromWeb(c.req.raw.body as NodeReadableStream) : Readable.from([]);
}
