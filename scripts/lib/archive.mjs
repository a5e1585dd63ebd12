import { createWriteStream, openSync, renameSync, rmSync } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { Refusal } from './say.mjs';

const manifestName = 'manifest.json';
const dumpName = 'database.dump';

/** Writes a backup: what is in it, and the database as a stream. The file is there once it is whole, and only its owner reads it. */
export async function writeArchive(file, manifest, dump) {
  const { ZipFile } = await import('yazl');
  const part = `${file}.part`;
  try {
    const zip = new ZipFile();
    zip.addBuffer(Buffer.from(`${JSON.stringify(manifest, null, 2)}\n`), manifestName);
    // It is compressed already.
    zip.addReadStream(dump, dumpName, { compress: false });
    dump.once('error', (error) => zip.outputStream.destroy(error));
    zip.end();
    await pipeline(zip.outputStream, createWriteStream(part, { fd: openSync(part, 'wx', 0o600) }));
    renameSync(part, file);
  } catch (error) {
    if (error.code !== 'EEXIST') rmSync(part, { force: true });
    throw error.code === 'EEXIST'
      ? new Refusal(
          `${part} is there already: another backup is being written, or one was broken off. Remove it.`,
        )
      : error;
  }
}

const opened = (open, file) =>
  new Promise((done, fail) => {
    open(file, { lazyEntries: true, autoClose: false }, (error, zip) =>
      error ? fail(new Refusal(`${file} is no backup, or it is damaged (${error.message}).`)) : done(zip),
    );
  });

const entriesOf = (zip) =>
  new Promise((done, fail) => {
    const found = new Map();
    zip.on('entry', (entry) => {
      found.set(entry.fileName, entry);
      zip.readEntry();
    });
    zip.once('end', () => done(found));
    zip.once('error', fail);
    zip.readEntry();
  });

const streamOf = (zip, entry) =>
  new Promise((done, fail) =>
    zip.openReadStream(entry, (error, stream) => (error ? fail(error) : done(stream))),
  );

/** Opens a backup: `{ manifest, dump(), close() }`. Refuses what is none. */
export async function openArchive(file) {
  const { open } = await import('yauzl');
  const zip = await opened(open, file);
  const entries = await entriesOf(zip).catch(() => new Map());
  const [manifest, dump] = [manifestName, dumpName].map((name) => entries.get(name));
  if (!manifest || !dump) throw new Refusal(`${file} is no backup of Sorvik.`);
  let text = '';
  for await (const chunk of await streamOf(zip, manifest)) text += chunk;
  return { manifest: JSON.parse(text), dump: () => streamOf(zip, dump), close: () => zip.close() };
}
