/** What a failure of the database means for whoever asked. */
export type Failure = 'lost' | 'full' | 'too long' | 'value' | 'other';

interface Coded {
  code?: unknown;
  message?: unknown;
  cause?: unknown;
}

const lostCodes = /^(08|57P|53300|58030|ECONNREFUSED$|ECONNRESET$|EPIPE$|ETIMEDOUT$)/;
const lostTexts =
  /Connection terminated|connection error and is not queryable|timeout exceeded when trying to connect|Client was closed|the database system is/;

function kindOfOne({ code, message }: Coded): Failure {
  const known = typeof code === 'string' ? code : '';
  if (known === '53100' || known === 'ENOSPC' || known === 'EDQUOT') return 'full';
  if (known === '57014') return 'too long';
  if (lostCodes.test(known) || (typeof message === 'string' && lostTexts.test(message))) return 'lost';
  // Class 22: a value that its type does not take.
  return known.startsWith('22') && known.length === 5 ? 'value' : 'other';
}

/** Finds out what went wrong; errors that were wrapped in others on their way are looked into. */
export function failureOf(error: unknown): Failure {
  let at: unknown = error;
  for (let depth = 0; depth < 8 && typeof at === 'object' && at !== null; depth++) {
    const kind = kindOfOne(at as Coded);
    if (kind !== 'other') return kind;
    const { errors } = at as { errors?: unknown };
    if (Array.isArray(errors)) {
      const found = errors.map((each) => failureOf(each)).find((each) => each !== 'other');
      if (found) return found;
    }
    at = (at as Coded).cause;
  }
  return 'other';
}
