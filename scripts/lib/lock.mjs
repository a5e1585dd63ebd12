import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Refusal } from './say.mjs';

/**
 * Says that this process uses the data directory. Refuses when another one answers there; a note left by a killed
 * process is passed over.
 */
export async function lockFolder(folder, url) {
  const file = join(folder, 'running.json');
  if (existsSync(file)) {
    let other;
    try {
      other = JSON.parse(readFileSync(file, 'utf8')).url;
    } catch {}
    const answers =
      other && (await fetch(`${other}/healthz`, { signal: AbortSignal.timeout(1500) }).catch(() => null));
    if (answers)
      throw new Refusal(
        `Sorvik already runs on this data directory, at ${other}. Choose another with --data DIR.`,
      );
  }
  writeFileSync(file, JSON.stringify({ url, pid: process.pid }));
  return () => rmSync(file, { force: true });
}
