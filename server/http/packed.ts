import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import type { Context } from 'hono';

const compress = promisify(gzip);
/** Less is not worth the work of taking it apart again. */
const fewBytes = 1024;
/** Fast, and nearly as small as it gets; of much, whoever asks waits for it. */
const levelFor = (bytes: number) => (bytes > 256 * 1024 ? 1 : 5);

/** An answer as it is sent again and again: as it is, and compressed. */
export interface Packed {
  plain: Uint8Array;
  gzip: Uint8Array | null;
}

export async function packed(plain: Uint8Array): Promise<Packed> {
  if (plain.byteLength < fewBytes) return { plain, gzip: null };
  const small = await compress(plain, { level: levelFor(plain.byteLength) });
  return { plain, gzip: small.byteLength < plain.byteLength * 0.9 ? small : null };
}

export const bytesOf = ({ plain, gzip: small }: Packed): number =>
  plain.byteLength + (small?.byteLength ?? 0) + 1;

const sent = new WeakMap<Context, Packed>();
/** What was sent, where it was sent packed. */
export const packedOf = (c: Context): Packed | undefined => sent.get(c);

/** Whether whoever asks takes what is compressed. */
export const takesGzip = (accepted: string | undefined): boolean =>
  /\bgzip\b(?!;\s*q=0(\.0*)?\s*(,|$))/.test(accepted ?? '');

/** Sends an answer in the way that whoever asked takes it. */
export function sendPacked(c: Context, answer: Packed, headers: Record<string, string>): Response {
  const { plain, gzip: small } = answer;
  sent.set(c, answer);
  const takes = small !== null && takesGzip(c.req.header('accept-encoding'));
  const body = (takes ? small : plain) as Uint8Array<ArrayBuffer>;
  return c.body(body, 200, {
    ...headers,
    ...(small ? { vary: 'accept-encoding' } : {}),
    ...(takes ? { 'content-encoding': 'gzip' } : {}),
    'content-length': String(body.byteLength),
  });
}
