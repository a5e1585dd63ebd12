import type { Context, MiddlewareHandler } from 'hono';
import { HttpProblem, problemResponse } from '../http/problem';
import { tell } from '../tell';
import { linkHeader } from './access';

/** What pages of other origins may ask for: what is published, and the data that it shows. */
const embeddable =
  /^\/(api\/(boards\/[^/]+\/shown|datasets\/[^/]+(\/cube(\/size)?|\/fields\/[^/]+\/(values|absent))?|changes)|pictures\/.+)$/;

/** What anybody's page may load: it is the same for all. */
const forAnyPage = /^\/(embed\.js|embed\/.+)$/;

/** So long a browser remembers what it may ask with, s. */
const remembered = 7200;

/** The origin of a page elsewhere that asks; undefined where it is none. */
export function foreignOrigin(c: Context): string | undefined {
  const origin = c.req.header('origin');
  if (!origin || !URL.canParse(origin)) return undefined;
  return new URL(origin).host === c.req.header('host') ? undefined : origin;
}

/** Whether a request is one that pages elsewhere may make, where they are allowed to: it asks, and changes nothing. */
export const isEmbeddable = ({ req: { method, path } }: Context): boolean =>
  embeddable.test(path) &&
  (['GET', 'HEAD', 'OPTIONS'].includes(method) || (method === 'POST' && path.endsWith('/absent')));

/**
 * Answers pages of other origins that may show a board, and tells the others why not: browsers let them read nothing else.
 * Nothing that a browser keeps for its user counts there, only the link that they name. `pagesFor` says
 * pages of which origins may show what a request asks for.
 */
export function otherOrigins(pagesFor: (c: Context) => Promise<readonly string[]>): MiddlewareHandler {
  const readable = (c: Context, origin: string) => {
    c.res.headers.set('access-control-allow-origin', origin);
    c.res.headers.append('vary', 'origin');
    c.res.headers.set('cross-origin-resource-policy', 'cross-origin');
  };
  return async (c, next) => {
    if (forAnyPage.test(c.req.path)) {
      await next();
      readable(c, '*');
      return;
    }
    if (!isEmbeddable(c)) return next();
    const origin = foreignOrigin(c);
    if (origin === undefined) {
      await next();
      // What a browser keeps of it is not for a page elsewhere.
      c.res.headers.append('vary', 'origin');
      return;
    }
    if (c.req.method === 'OPTIONS') {
      c.res = c.body(null, 204, {
        'access-control-allow-methods': 'GET,POST',
        'access-control-allow-headers': ['content-type', 'if-none-match', linkHeader].join(),
        'access-control-max-age': String(remembered),
      });
      readable(c, origin);
      return;
    }
    if ((await pagesFor(c)).includes(origin)) await next();
    else
      c.res = problemResponse(
        c,
        new HttpProblem(403, 'foreign-origin', tell('app.requestsFromOtherWebsites')),
      );
    readable(c, origin);
  };
}
