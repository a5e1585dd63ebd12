import { accessSync, constants, existsSync, mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import { Refusal } from './say.mjs';

/** Level by level: making a whole path at once never comes back on some of the system's own file systems. */
function makeLevels(folder) {
  if (existsSync(folder)) return;
  makeLevels(dirname(folder));
  mkdirSync(folder);
}

/** Makes a data directory and sees that it can be used, or refuses it with the reason. */
export function ensureFolder(folder) {
  try {
    makeLevels(folder);
    accessSync(folder, constants.R_OK | constants.W_OK | constants.X_OK);
  } catch (error) {
    throw new Refusal(
      `The data directory ${folder} cannot be used (${error.code}). Choose another with --data DIR.`,
    );
  }
}
