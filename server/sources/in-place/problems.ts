import { HttpProblem } from '../../http/problem';
import { cutText } from '../../http/well-formed';
import { tell } from '../../tell';

interface Coded {
  code?: unknown;
  message?: unknown;
  errors?: unknown;
}

/** What a failure of another database means. */
export type SourceFailure =
  | 'not-reached'
  | 'certificate'
  | 'refused'
  | 'too-long'
  | 'busy'
  | 'data'
  | 'other';

const unreached =
  /^(ECONN|EHOSTUNREACH|ENETUNREACH|ENOTFOUND|EAI_AGAIN|EPIPE|ETIMEDOUT|57P0)|^Connection terminated|not queryable|the database system is/;
const untrusted = /^ERR_TLS|CERT|SELF_SIGNED|UNABLE_TO_VERIFY|does not support SSL|SSL routines|EPROTO/;
/** Who it is, what it is called, and what it may. */
const refused = /^(28|3D000|42501)|SASL|password/;

export function sourceFailureOf(error: unknown): SourceFailure {
  const { code, message, errors } = (error ?? {}) as Coded;
  const words = [typeof code === 'string' ? code : '', typeof message === 'string' ? message : ''];
  const is = (pattern: RegExp) => words.some((word) => pattern.test(word));
  if (is(/^timeout exceeded when trying to connect/)) return 'busy';
  if (is(/^57014$|Query read timeout/)) return 'too-long';
  if (is(untrusted)) return 'certificate';
  if (is(unreached)) return 'not-reached';
  if (is(refused)) return 'refused';
  // Of several addresses of a host none answered.
  if (Array.isArray(errors) && errors.length) return sourceFailureOf(errors[0]);
  return is(/^(22|42)/) ? 'data' : 'other';
}

/** What another database said of itself, in one line and not too long. Nothing of what it was given stands in it. */
export const wordsOf = (error: unknown): string =>
  cutText(String((error as Coded)?.message ?? error).replace(/\s+/g, ' '), 200);

const later = { 'retry-after': '10' };

/** Why another database gave no answer, as an answer of ours: what is to be done about it, and by whom. */
export function sourceProblem(
  error: unknown,
  { name, host, port, seconds }: { name: string; host: string; port: number; seconds: number },
): HttpProblem {
  if (error instanceof HttpProblem) return error;
  const why = wordsOf(error);
  switch (sourceFailureOf(error)) {
    case 'not-reached':
      return new HttpProblem(
        502,
        'source-not-reached',
        tell('inPlace.notReached', { name, host, port: String(port) }),
        {},
        later,
      );
    case 'busy':
      return new HttpProblem(502, 'source-not-reached', tell('inPlace.busy', { name }), {}, later);
    case 'certificate':
      return new HttpProblem(502, 'source-certificate', tell('inPlace.certificate', { name, why }));
    case 'refused':
      return new HttpProblem(502, 'source-refused', tell('inPlace.refused', { name, why }));
    case 'too-long':
      return new HttpProblem(504, 'source-too-slow', tell('inPlace.tooSlow', { name, seconds }));
    default:
      return new HttpProblem(502, 'source-failed', tell('inPlace.failed', { name, why }));
  }
}
