import { createWriteStream } from 'node:fs';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Room } from '../db/room';
import { HttpProblem } from '../http/problem';

interface Limits {
  room: Room;
  /** The most bytes it may have, and what is said of more. */
  most: number;
  tooLarge: string;
}

/**
 * Writes what comes in to a file on disk, as long as there is room, and gives its size in bytes. `see` is shown each piece
 * before it is written. Throws 413 for more than the most; the file is then its caller's to remove.
 */
export async function spooled(
  source: Readable,
  path: string,
  { room, most, tooLarge }: Limits,
  see?: (bytes: Buffer) => void,
): Promise<number> {
  let size = 0;
  await pipeline(
    source,
    async function* (chunks: AsyncIterable<Uint8Array>) {
      for await (const chunk of chunks) {
        const bytes = Buffer.from(chunk.buffer, chunk.byteOffset, chunk.byteLength);
        size += bytes.length;
        see?.(bytes);
        await room.ensureNow();
        if (size > most) throw new HttpProblem(413, 'file-too-large', tooLarge);
        yield bytes;
      }
    },
    createWriteStream(path),
  );
  return size;
}
