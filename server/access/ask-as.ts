import type { Context } from 'hono';
import { linkGiven, linkHeader } from './access';

/** Answers a request of the API as somebody would be answered. */
export type Ask = (path: string, init?: RequestInit) => Promise<Response>;

/** Answers a request as the whole application does. */
export type Fetch = (request: Request, env: unknown) => Response | Promise<Response>;

/** Asks the API for whoever makes a request: with what they are known by, and as long as they wait or as `signal` says. */
export const askAs =
  (fetch: Fetch, c: Context, signal = c.req.raw.signal): Ask =>
  async (path, init = {}) => {
    const headers = new Headers(init.headers);
    for (const name of ['cookie', 'authorization', 'x-forwarded-for', 'host']) {
      const value = c.req.header(name);
      if (value !== undefined) headers.set(name, value);
    }
    const link = linkGiven(c);
    if (link !== undefined) headers.set(linkHeader, link);
    return fetch(new Request(new URL(path, c.req.url), { ...init, headers, signal }), c.env);
  };
