import { lockFolder } from './lock.mjs';
import { ensureDebianPackages } from './packages.mjs';
import { runningPostgres, startPostgres } from './postgres.mjs';

/**
 * The database that is meant: one that is named, or that of a data directory, which is started where it does not run. Where it is to be
 * `alone`, a running one is refused. `{ url, stop() }`.
 */
export async function databaseOf({ database, folder, alone }) {
  if (database) return { url: database, stop: async () => {} };
  const running = alone ? null : runningPostgres(folder);
  if (running) return { url: running, stop: async () => {} };
  await ensureDebianPackages(['postgresql']);
  const unlock = await lockFolder(folder, '');
  const { url, stop } = await startPostgres(folder);
  return {
    url,
    async stop() {
      await stop();
      unlock();
    },
  };
}
