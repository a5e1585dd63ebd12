import { mkdtemp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { promisify } from 'node:util';
import { crc32 } from 'node:zlib';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import type { Room } from '../db/room';
import { HttpProblem } from '../http/problem';
import { spooled } from '../imports/spooled';
import { tell } from '../tell';

/** A file with its data may have so many bytes, packed, and each of its parts unpacked. */
const maxPacked = 2 * 1024 ** 3;
const maxUnpacked = 8 * 1024 ** 3;
const maxJson = 4 * 1024 * 1024;
const maxEntries = 100;

const unusable = (message: string) => new HttpProblem(422, 'file-cannot-be-used', message);

/** The parts of a zip file that is kept on disk while it is read. */
export interface Unpacked {
  json(name: string): Promise<unknown>;
  stream(name: string): Promise<Readable>;
  names: readonly string[];
  close(): Promise<void>;
}

const openZip = promisify<string, yauzl.Options, ZipFile>(yauzl.open);

async function entriesOf(zip: ZipFile): Promise<Map<string, Entry>> {
  const entries = new Map<string, Entry>();
  let unpacked = 0;
  await new Promise<void>((done, fail) => {
    zip.on('entry', (entry: Entry) => {
      unpacked += entry.uncompressedSize;
      if (entries.size >= maxEntries || unpacked > maxUnpacked)
        return fail(unusable(tell('fileZip.tooMuch', { most: maxEntries })));
      entries.set(entry.fileName, entry);
      zip.readEntry();
    });
    zip.on('end', done);
    zip.on('error', (error: Error) => fail(unusable(tell('fileZip.notWhole', { message: error.message }))));
    zip.readEntry();
  });
  return entries;
}

/** A part of a zip file that ends with an error where it is not what the file says of it. */
function whole(part: Readable, { fileName, crc32: sum }: Entry): Readable {
  async function* checked() {
    let found = 0;
    try {
      for await (const piece of part) {
        found = crc32(piece as Buffer, found);
        yield piece as Buffer;
      }
    } catch (error) {
      throw unusable(tell('fileZip.inItCannotBe', { fileName, message: (error as Error).message }));
    }
    if (found !== sum >>> 0) throw unusable(tell('fileZip.inItIsDamaged', { fileName }));
  }
  return Readable.from(checked());
}

/** Takes in a zip file. Sizes are checked before and while it is read; names never become paths on this machine. */
export async function unpack(spool: string, room: Room, source: Readable): Promise<Unpacked> {
  const folder = await mkdtemp(join(spool, 'board-'));
  const remove = () => rm(folder, { recursive: true, force: true });
  try {
    const path = join(folder, 'file.zip');
    await spooled(source, path, { room, most: maxPacked, tooLarge: tell('fileZip.aZipFileCan') });
    const zip = await openZip(path, { lazyEntries: true, autoClose: false }).catch((error: Error) => {
      throw unusable(tell('fileZip.itIsNoZip', { message: error.message }));
    });
    const entries = await entriesOf(zip).catch((error) => {
      zip.close();
      throw error;
    });
    const openEntry = promisify<Entry, Readable>(zip.openReadStream.bind(zip) as never);
    const stream = async (name: string): Promise<Readable> => {
      const entry = entries.get(name);
      if (!entry) throw unusable(tell('fileZip.itHoldsNo', { name }));
      const part = await openEntry(entry).catch((error: Error) => {
        throw unusable(tell('fileZip.inItCannotBe2', { name, message: error.message }));
      });
      return whole(part, entry);
    };
    return {
      names: [...entries.keys()],
      stream,
      async json(name) {
        const entry = entries.get(name);
        if (entry && entry.uncompressedSize > maxJson)
          throw unusable(tell('fileZip.isLargerThanMb', { name }));
        const pieces: Buffer[] = [];
        for await (const piece of await stream(name)) pieces.push(piece as Buffer);
        try {
          return JSON.parse(Buffer.concat(pieces).toString('utf8'));
        } catch {
          throw unusable(tell('fileZip.isNotValidJson', { name }));
        }
      },
      async close() {
        zip.close();
        await remove();
      },
    };
  } catch (error) {
    await remove();
    throw error;
  }
}
