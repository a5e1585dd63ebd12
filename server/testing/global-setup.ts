import { chmodSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';

declare module 'vitest' {
  export interface ProvidedContext {
    databaseUrl: string;
  }
}

const root = join(import.meta.dirname, '../..');

/** What reads files of other formats, and what draws pictures, runs beside the server, and is needed as one file. */
async function bundleHelpers(): Promise<void> {
  // @ts-expect-error: the scripts are plain JavaScript, run before anything is installed
  const { buildPainter, buildShowThread, bundle } = await import('../../scripts/lib/build.mjs');
  process.env.SORVIK_READER = join(root, 'dist/testing/reader.js');
  await bundle(root, 'server/imports/formats/reader.ts', process.env.SORVIK_READER);
  process.env.SORVIK_PAINTER = join(root, 'dist/testing/painter.js');
  await buildPainter(root, 'dist/testing');
  process.env.SORVIK_SHOW_THREAD = join(root, 'dist/testing/show-thread.js');
  await buildShowThread(root, 'dist/testing');
}

/** A private PostgreSQL for the whole run: the one of `npm test`, or one of its own when the tests are run alone. */
export default async function setup(project: TestProject) {
  await bundleHelpers();
  const given = process.env.SORVIK_TEST_DATABASE;
  if (given) {
    project.provide('databaseUrl', given);
    return;
  }
  const folder = mkdtempSync(join(tmpdir(), 'sorvik-test-'));
  chmodSync(folder, 0o755);
  // @ts-expect-error: the scripts are plain JavaScript, run before anything is installed
  const { startPostgres, removeData } = await import('../../scripts/lib/postgres.mjs');
  const postgres = await startPostgres(folder, { throwAway: true });
  project.provide('databaseUrl', postgres.url);
  return async () => {
    await postgres.stop();
    removeData(folder);
  };
}
