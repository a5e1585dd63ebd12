import type { ValidationError } from 'class-validator';

/** One thing wrong with a document: where (a JSON Pointer) and what to do about it. */
export interface Problem {
  pointer: string;
  message: string;
}

const escapeToken = (token: string) => token.replace(/~/g, '~0').replace(/\//g, '~1');

/** Flattens class-validator's tree into pointers and messages. */
export function problemsOf(errors: ValidationError[], at = ''): Problem[] {
  return errors.flatMap((error) => {
    const pointer = `${at}/${escapeToken(error.property ?? '')}`;
    const own = Object.values(error.constraints ?? {}).map((message) => ({ pointer, message }));
    return [...own, ...problemsOf(error.children ?? [], pointer)];
  });
}
