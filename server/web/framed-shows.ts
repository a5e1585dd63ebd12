import type { Context, MiddlewareHandler } from 'hono';

/** The origins whose pages may have the show that is asked for in a frame  */
const framers = new WeakMap<Context, readonly string[]>();

/** Whether a request is for a show in a frame. */
const isFramed = ({ req }: Context): boolean => /^\/show\/[^/]+$/.test(req.path) && req.query('embed') === '';

/**
 * Has browsers show a board in a frame on pages of the origins that may show it (`frame-ancestors`, CSP level 3), and on no
 * other. It goes before whatever else sets headers.
 */
export function framedShows(pagesFor: (c: Context) => Promise<readonly string[]>): MiddlewareHandler {
  return async (c, next) => {
    if (!isFramed(c)) return next();
    // Without a database nobody is known to be allowed.
    const origins = await pagesFor(c).catch(() => []);
    framers.set(c, origins);
    await next();
    if (!origins.length) return;
    const policy = c.res.headers.get('content-security-policy') ?? '';
    c.res.headers.set(
      'content-security-policy',
      policy.replace(/frame-ancestors [^;]*/, () => ['frame-ancestors', ...origins].join(' ')),
    );
    // An older header for the same, which cannot name origins.
    c.res.headers.delete('x-frame-options');
  };
}

/** The origins whose pages may have this show in a frame; none where no frame is meant. */
export const framersOf = (c: Context): readonly string[] => framers.get(c) ?? [];
