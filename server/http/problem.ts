import type { Problem as Detail } from '@sorvik/core/board/read-board';
import type { Context } from 'hono';
import type { ContentfulStatusCode } from 'hono/utils/http-status';

/** An answer other than success, as a problem document of RFC 9457. `detail` says what to do about it. */
export class HttpProblem extends Error {
  constructor(
    readonly status: ContentfulStatusCode,
    readonly title: string,
    readonly detail: string,
    /** Members of the problem's own: `errors` with pointers into the input, say. */
    readonly more: { errors?: Detail[]; [member: string]: unknown } = {},
  ) {
    super(`${title}: ${detail}`);
  }
}

const slug = (title: string) => title.toLowerCase().replace(/[^a-z0-9]+/g, '-');

export function problemResponse(c: Context, problem: HttpProblem): Response {
  const body = {
    type: `/problems/${slug(problem.title)}`,
    title: problem.title,
    status: problem.status,
    detail: problem.detail,
    instance: c.req.path,
    ...problem.more,
  };
  return c.body(JSON.stringify(body), problem.status, { 'content-type': 'application/problem+json' });
}

export const notFound = (what: string, id: string) =>
  new HttpProblem(404, 'Not found', `There is no ${what} "${id}". It may have been deleted.`);

export const invalid = (errors: Detail[]) =>
  new HttpProblem(
    422,
    'Invalid input',
    errors
      .map((error) => (error.pointer ? `${error.pointer.slice(1)}: ${error.message}` : error.message))
      .join('; '),
    { errors },
  );
