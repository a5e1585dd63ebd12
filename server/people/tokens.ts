import { createHash, randomBytes } from 'node:crypto';

/** A secret that nobody can guess: 256 bits, as text for an address or a cookie. */
export const newToken = (): string => randomBytes(32).toString('base64url');

/** What is kept of a secret: whoever reads the database cannot use it. */
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('base64url');
