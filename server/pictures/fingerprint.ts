import { createHash, type Hash } from 'node:crypto';

/** Takes in a value: what it is made of, and of typed arrays their bytes. */
function take(hash: Hash, value: unknown): void {
  if (ArrayBuffer.isView(value)) {
    hash.update(`${value.byteLength}:`);
    hash.update(new Uint8Array(value.buffer, value.byteOffset, value.byteLength));
  } else if (value instanceof Set) take(hash, [...value]);
  else if (Array.isArray(value) && !value.some((each) => typeof each === 'object' && each !== null))
    hash.update(JSON.stringify(value));
  else if (Array.isArray(value)) {
    hash.update(`[${value.length}`);
    for (const each of value) take(hash, each);
  } else if (typeof value === 'object' && value !== null) {
    const pairs = Object.entries(value).filter(([, each]) => each !== undefined);
    hash.update(`{${pairs.length}`);
    for (const [name, each] of pairs) {
      hash.update(`${JSON.stringify(name)}:`);
      take(hash, each);
    }
  } else hash.update(`${JSON.stringify(value)},`);
}

/** What a value of plain data is told from all others by: the same data have the same one, whoever asks for them. */
export function fingerprint(value: unknown): string {
  const hash = createHash('sha256');
  take(hash, value);
  return hash.digest('base64url');
}
