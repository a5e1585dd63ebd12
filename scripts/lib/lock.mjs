import { spawn } from 'node:child_process';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Refusal } from './say.mjs';

/** What `flock` ends with when somebody else holds the lock. */
const held = 75;

const noteOf = (file) => {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
};

/**
 * Takes the kernel's lock on a file, for as long as this process lives: a helper holds it and ends when its input does,
 * however this process ends. Resolves to a function that gives it back, or to null where another one has it.
 */
function takeLock(file) {
  return new Promise((resolve, reject) => {
    const helper = spawn('flock', ['-n', '-E', String(held), file, 'sh', '-c', 'echo held; exec cat'], {
      stdio: ['pipe', 'pipe', 'ignore'],
      // A Ctrl-C at the terminal is for the start script, which gives the lock back last.
      detached: true,
    });
    helper.once('error', reject);
    helper.once('exit', (code) =>
      code === held ? resolve(null) : reject(new Error(`flock ended with ${code}`)),
    );
    helper.stdout.once('data', () => {
      helper.removeAllListeners('exit');
      helper.unref();
      helper.stdin.unref();
      helper.stdout.unref();
      resolve(() => helper.stdin.end());
    });
  });
}

/**
 * Says that this process uses the data directory. Refuses when another one does, also one that is stopped and does not
 * answer; a note left by a killed process is passed over.
 */
export async function lockFolder(folder, url) {
  const file = join(folder, 'running.json');
  const release = await takeLock(join(folder, 'lock')).catch((error) => {
    if (error.code === 'ENOENT')
      throw new Refusal(
        'The program "flock" is missing on this machine (Debian has it in util-linux). Without it two starts could share one data directory.',
      );
    throw error;
  });
  if (!release) {
    const other = existsSync(file) ? noteOf(file) : null;
    const who = other ? `, at ${other.url} (process ${other.pid})` : '';
    throw new Refusal(
      `Sorvik already runs on this data directory${who}. Stop it first, or choose another with --data DIR.`,
    );
  }
  writeFileSync(file, JSON.stringify({ url, pid: process.pid }));
  return () => {
    rmSync(file, { force: true });
    release();
  };
}
