import type { Context } from 'hono';
import { setCookie } from 'hono/cookie';

/** Keeps something in the browser of whoever asks, so that no page can read it and no other site has it sent along; `seconds` long. */
export const keepInBrowser = (
  c: Context,
  name: string,
  value: string,
  { secure, seconds }: { secure: boolean; seconds: number },
): void => setCookie(c, name, value, { httpOnly: true, secure, sameSite: 'Lax', path: '/', maxAge: seconds });
