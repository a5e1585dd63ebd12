import type { Problem as Detail } from '@sorvik/core/board/problem';
import type { Context } from 'hono';
import type { ContentfulStatusCode } from 'hono/utils/http-status';
import { failureOf } from '../db/failure';

/** An answer other than success, as a problem document of RFC 9457. `detail` says what to do about it. */
export class HttpProblem extends Error {
  constructor(
    readonly status: ContentfulStatusCode,
    readonly title: string,
    readonly detail: string,
    /** Members of the problem's own: `errors` with pointers into the input, say. */
    readonly more: { errors?: Detail[]; [member: string]: unknown } = {},
    readonly headers: Record<string, string> = {},
  ) {
    super(`${title}: ${detail}`);
  }
}

/** What a failure of the database or of the disk is answered with; undefined for one that nobody foresaw. */
export function failureProblem(error: unknown): HttpProblem | undefined {
  switch (failureOf(error)) {
    case 'lost':
      return new HttpProblem(
        503,
        'Database not available',
        'The database does not answer right now. Nothing saved is lost; try again in a moment.',
        {},
        { 'retry-after': '1' },
      );
    case 'full':
      return new HttpProblem(
        507,
        'Disk full',
        'There is no room left on the disk, so this was not saved. Free some space (a deleted dataset can be removed for good on the first page), then try again. What was saved before can still be read.',
      );
    case 'too long':
      return new HttpProblem(
        503,
        'Took too long',
        'The database took longer than 30 seconds, so the question was broken off. Keep fewer rows, or choose fields with fewer values.',
        {},
        { 'retry-after': '5' },
      );
    case 'value':
      return invalid([{ pointer: '', message: 'a value is not one that its field can have' }]);
    default:
      return undefined;
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
  return c.body(JSON.stringify(body), problem.status, {
    'content-type': 'application/problem+json',
    ...problem.headers,
  });
}

export const notFound = (what: string, id: string) =>
  new HttpProblem(404, 'Not found', `There is no ${what} "${id}". It may have been deleted.`);

/** More mistakes than this are not told one by one. */
const mostTold = 50;

export const invalid = (all: Detail[], errors = all.slice(0, mostTold)) =>
  new HttpProblem(
    422,
    'Invalid input',
    errors
      .map((error) => (error.pointer ? `${error.pointer.slice(1)}: ${error.message}` : error.message))
      .join('; '),
    { errors },
  );
