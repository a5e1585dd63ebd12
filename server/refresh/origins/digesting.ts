import { createHash } from 'node:crypto';
import { Transform } from 'node:stream';

/** Bytes as they come, and their digest once all have. */
export interface Digesting extends Transform {
  digest(): string;
}

/** A stream that passes bytes on, and knows their digest at the end. */
export function digesting(): Digesting {
  const hash = createHash('sha256');
  let found = '';
  const stream = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      hash.update(chunk);
      done(null, chunk);
    },
    flush(done) {
      found = hash.digest('base64url');
      done();
    },
  });
  return Object.assign(stream, { digest: () => found });
}
