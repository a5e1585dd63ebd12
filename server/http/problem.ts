import type { Problem as Detail } from '@sorvik/core/board/problem';
import type { Context } from 'hono';
import type { ContentfulStatusCode } from 'hono/utils/http-status';
import { failureOf } from '../db/failure';
import { type ServerMessage, tell } from '../tell';

/** An answer other than success, as a problem document of RFC 9457. `detail` says what to do about it. */
export class HttpProblem extends Error {
  constructor(
    readonly status: ContentfulStatusCode,
    /** Names the problem in its `type`, and its title in the catalogue. */
    readonly kind: ServerMessage,
    readonly detail: string,
    /** Members of the problem's own: `errors` with pointers into the input, say. */
    readonly more: { errors?: Detail[]; [member: string]: unknown } = {},
    readonly headers: Record<string, string> = {},
  ) {
    super(`${tell(kind)}: ${detail}`);
  }
}

/** What a failure of the database or of the disk is answered with; undefined for one that nobody foresaw. */
export function failureProblem(error: unknown): HttpProblem | undefined {
  switch (failureOf(error)) {
    case 'lost':
      return new HttpProblem(
        503,
        'database-not-available',
        tell('problem.theDatabaseDoesNot'),
        {},
        { 'retry-after': '1' },
      );
    case 'full':
      return new HttpProblem(507, 'disk-full', tell('problem.thereIsNoRoom'));
    case 'too long':
      return new HttpProblem(
        503,
        'took-too-long',
        tell('problem.theDatabaseTookLonger'),
        {},
        { 'retry-after': '5' },
      );
    case 'value':
      return invalid([{ pointer: '', message: tell('problem.aValueIsNot') }]);
    default:
      return undefined;
  }
}

export function problemResponse(c: Context, problem: HttpProblem): Response {
  const body = {
    type: `/problems/${problem.kind}`,
    title: tell(problem.kind),
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

export const notFound = (
  what:
    | 'board'
    | 'dataset'
    | 'field'
    | 'import'
    | 'version'
    | 'copy'
    | 'skipped'
    | 'connection'
    | 'table'
    | 'token',
  id: string,
) => new HttpProblem(404, 'not-found', tell('problem.thereIsNoIt', { what, id }));

/** More mistakes than this are not told one by one. */
const mostTold = 50;

export const invalid = (all: Detail[], errors = all.slice(0, mostTold)) =>
  new HttpProblem(
    422,
    'invalid-input',
    errors
      .map((error) => (error.pointer ? `${error.pointer.slice(1)}: ${error.message}` : error.message))
      .join('; '),
    { errors },
  );
