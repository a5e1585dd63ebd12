import { createReadStream, createWriteStream } from 'node:fs';
import { basename, join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { promisify } from 'node:util';
import { createGunzip } from 'node:zlib';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import { tell } from '../../tell';
import { type PackFormat, type SourceFile, UnreadableFile } from './format-kind';

/** Files unpack to so many bytes together, and there are so many of them. */
export const mostUnpacked = 8 * 1024 ** 3;
const mostFiles = 1000;

/** Lets bytes pass, up to as many as files may unpack to. */
export function limited(count: { bytes: number }, most = mostUnpacked): Transform {
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      count.bytes += chunk.length;
      if (count.bytes > most)
        done(new UnreadableFile(tell('formats.unpacksToTooMuch', { most: Math.round(most / 1024 ** 2) })));
      else done(null, chunk);
    },
  });
}

const damaged = (format: string, error: unknown) =>
  error instanceof UnreadableFile
    ? error
    : new UnreadableFile(
        tell('formats.cannotBeRead', { format, why: String((error as Error).message).slice(0, 300) }),
      );

/** One file, packed by gzip. */
export const gzip: PackFormat = {
  name: 'gzip',
  is: (head) => head[0] === 0x1f && head[1] === 0x8b,
  async unpack({ path, name }, folder) {
    const to = join(folder, 'unpacked');
    const count = { bytes: 0 };
    try {
      await pipeline(createReadStream(path), createGunzip(), limited(count), createWriteStream(to));
    } catch (error) {
      throw damaged('gzip', error);
    }
    return [{ path: to, name: name.replace(/\.(gz|gzip)$/i, ''), bytes: count.bytes }];
  },
};

const open = promisify<string, yauzl.Options, ZipFile>(yauzl.open);

/** What is in a zip file, without folders and without what an operating system adds. */
export async function entriesOf(zip: ZipFile): Promise<Entry[]> {
  const entries: Entry[] = [];
  await new Promise<void>((done, fail) => {
    zip.on('entry', (entry: Entry) => {
      const own = /\/$|(^|\/)(__MACOSX\/|\.)/.test(entry.fileName);
      if (!own) entries.push(entry);
      if (entries.length > mostFiles)
        fail(new UnreadableFile(tell('formats.tooManyFiles', { most: mostFiles })));
      else zip.readEntry();
    });
    zip.on('end', done);
    zip.on('error', fail);
    zip.readEntry();
  });
  return entries;
}

/** Opens a zip file for a while. */
export async function withZip<T>(path: string, work: (zip: ZipFile) => Promise<T>): Promise<T> {
  let zip: ZipFile;
  try {
    zip = await open(path, { lazyEntries: true, autoClose: false, validateEntrySizes: true });
  } catch (error) {
    throw damaged('zip', error);
  }
  try {
    return await work(zip);
  } catch (error) {
    throw damaged('zip', error);
  } finally {
    zip.close();
  }
}

export const streamOf = (zip: ZipFile, entry: Entry) =>
  promisify<Entry, NodeJS.ReadableStream>(zip.openReadStream.bind(zip) as never)(entry);

/** Files in a zip file. */
export const zip: PackFormat = {
  name: 'zip',
  is: (head) => head.subarray(0, 4).toString('latin1') === 'PK\u0003\u0004',
  unpack: ({ path }, folder) =>
    withZip(path, async (opened) => {
      const count = { bytes: 0 };
      const files: SourceFile[] = [];
      for (const entry of await entriesOf(opened)) {
        const to = join(folder, `unpacked-${files.length}`);
        const before = count.bytes;
        await pipeline(await streamOf(opened, entry), limited(count), createWriteStream(to));
        files.push({ path: to, name: basename(entry.fileName), bytes: count.bytes - before });
      }
      if (!files.length) throw new UnreadableFile(tell('formats.emptyZip'));
      return files;
    }),
};
